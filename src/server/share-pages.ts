import { config } from './process/config';
import { log } from './process/log';
import { shareServer } from './sharing/listener';

/** The process of the share pages: an address of its own, which knows nothing of the studio but what its links show. */
const { shareHost } = config();
const at = shareHost.lastIndexOf(':');
const [host, port] = [shareHost.slice(0, at).replace(/^\[|\]$/g, ''), Number(shareHost.slice(at + 1))];
const server = shareServer();
server.on('error', (error) => {
  log().fatal({ err: error }, `share pages cannot be served at ${shareHost}`);
  process.exit(1);
});
server.listen(port, host);
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  });
