import { networkInterfaces } from 'node:os';

/** An IPv4 address as a socket of both families writes it. */
const plain = (address: string): string => address.trim().replace(/^::ffff:/, '');

/**
 * Whether whoever asks does so from this machine.
 * @param headers `x-forwarded-for` is set by the server itself from the connection
 */
export function isSameMachine(headers: Headers): boolean {
  const [from] = (headers.get('x-forwarded-for') ?? '').split(',');
  if (!from) return false;
  const own = Object.values(networkInterfaces()).flatMap((list) => list ?? []);
  return own.some(({ address }) => address === plain(from));
}
