import { SetUpStage } from '@/ui/set-up/set-up-stage';

export default function Page() {
  return <SetUpStage />;
}
