/** An encoded picture of a track. `us`: when it is seen, on the clock of its segment or of its take. */
export type Packet = { us: number; bytes: number; key: boolean };
