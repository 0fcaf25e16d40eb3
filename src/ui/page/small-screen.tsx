/** Said on screens that are too small for a stage; the style sheet shows it only there. */
export const SmallScreen = ({ stage }: { stage: string }) => (
  <p className="small-screen panel">
    {stage} needs a larger screen: open this lesson on the computer that records.
  </p>
);
