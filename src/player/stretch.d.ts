/** The package ships no types: what is used of it, as its README says. */
declare module 'signalsmith-stretch' {
  type StretchNode = AudioNode & {
    schedule: (change: { active?: boolean; semitones?: number }) => Promise<unknown>;
    /** Of what goes through it, in seconds. */
    latency: () => Promise<number>;
  };
  function createStretch(context: AudioContext, options?: AudioWorkletNodeOptions): Promise<StretchNode>;
  namespace createStretch {
    /** Where the worklet's script is; without it one is made of its own source, which a content security policy may refuse. */
    let moduleUrl: string | undefined;
  }
  export default createStretch;
}
