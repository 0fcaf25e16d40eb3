/**
 * Whether a request may be answered at all. The Host check stops a foreign site that points its own name at this machine
 * (DNS rebinding); the Origin check stops a foreign page that sends requests here.
 * @param allowedHosts lower-case `name:port`
 */
export function isOwnRequest(
  host: string | null,
  origin: string | null,
  allowedHosts: ReadonlySet<string>,
): boolean {
  if (!host || !allowedHosts.has(host.toLowerCase())) return false;
  if (origin === null) return true;
  try {
    return allowedHosts.has(new URL(origin).host.toLowerCase());
  } catch {
    return false;
  }
}

export const FOREIGN_REQUEST = {
  code: 'foreign-request',
  message: 'This request came under a name or from a page that the studio does not know.',
  hint: 'Open the studio at the address that npm start prints.',
};
