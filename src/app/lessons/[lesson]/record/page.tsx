import { RecordStage } from '@/ui/record/record-stage';

export default function Page() {
  return <RecordStage />;
}
