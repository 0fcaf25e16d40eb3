import { ComingStage } from '@/ui/lesson/coming-stage';

export default function Page() {
  return <ComingStage stage="rehearse" />;
}
