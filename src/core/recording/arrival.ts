/** A browser that was silent for this long may not come back: the take's page offers to finish the take with what has arrived. */
export const OFFER_AFTER_MS = 3_600_000;
/** After this long it is finished without asking. */
export const FINISH_AFTER_MS = 7 * 24 * 3_600_000;

/** What a take on its way from a browser has come to. */
export type Arrival = {
  /** ISO 8601: when the browser was last heard from. */
  lastHeardAt: string;
  bytes: number;
  /** Whether finishing it with what has arrived is offered. */
  offered: boolean;
};

/** @param lastHeardMs wall clock of the last byte or message from its browser */
export const isOffered = (lastHeardMs: number, nowMs: number, bytes: number): boolean =>
  bytes > 0 && nowMs - lastHeardMs >= OFFER_AFTER_MS;

/** Whether it is finished without asking. */
export const isOverdue = (lastHeardMs: number, nowMs: number, bytes: number): boolean =>
  bytes > 0 && nowMs - lastHeardMs >= FINISH_AFTER_MS;
