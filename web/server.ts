/**
 * Serves the built application. Large uploads over slow lines may take longer than Node's default limit for a request.
 */
import { createServer } from 'node:http';
import next from 'next';
import { PEER_HEADER } from './src/server/ledger/origin.ts';

const port = Number(process.env['PORT'] ?? 3000);
const app = next({ dev: false, dir: import.meta.dirname, port });
await app.prepare();
const handle = app.getRequestHandler();
const server = createServer((request, response) => {
  // Where a request comes from, for the ledger; what a sender says about that does not count.
  request.headers[PEER_HEADER] = request.socket.remoteAddress ?? '';
  void handle(request, response);
});
// Stalled uploads are given up by the upload itself.
server.requestTimeout = 0;
server.listen(port, () => process.send?.('ready'));

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
    setTimeout(() => process.exit(0), 3000).unref();
  });
}
process.on('disconnect', () => process.exit(0));
