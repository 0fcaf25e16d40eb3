/** Rehearse is not built yet, and says so. */
export const RehearseStage = () => (
  <main>
    <p className="panel mute">
      Rehearse is not available in this version. Set up measures the encoders; Record shows the figures of a
      take.
    </p>
  </main>
);
