/**
 * The ways in which a browser may name a host: it leaves out the port that its scheme has anyway (Fetch standard, Host
 * header and origin serialisation).
 * @param host `name` or `name:port`
 */
export function hostForms(host: string): string[] {
  const forms = ['http', 'https'].flatMap((scheme) => {
    try {
      return [new URL(`${scheme}://${host.trim()}`).host];
    } catch {
      return [];
    }
  });
  return [...new Set([host.trim().toLowerCase(), ...forms])];
}

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
