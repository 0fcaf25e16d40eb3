import { RehearseStage } from '@/ui/rehearse/rehearse-stage';

export default function Page() {
  return <RehearseStage />;
}
