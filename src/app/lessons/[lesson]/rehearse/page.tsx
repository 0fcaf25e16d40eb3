import { RehearseStage } from '@/ui/lesson/rehearse-stage';

export default function Page() {
  return <RehearseStage />;
}
