import { Lab } from '@/ui/lab/lab';

export const metadata = { title: 'Lab' };

/** The recorder without its screens: where benchmarks and tests drive it. Not linked from anywhere. */
export default function Page() {
  return (
    <main>
      <h1>Lab</h1>
      <p className="mute">
        Benchmarks and tests drive the recorder from here. There is nothing to do by hand.
      </p>
      <Lab />
    </main>
  );
}
