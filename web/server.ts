/**
 * Serves the built application. Large uploads over slow lines may take longer than Node's default limit for a request.
 */
import { createServer } from 'node:http';
import next from 'next';
import { newNonce, policyWith } from './src/server/http/policy.ts';
import { asPage } from './src/server/once-a-page.ts';
import { PEER_HEADER } from './src/server/ledger/origin.ts';

// Whatever is compared, pages come first.
process.env['OVREL_COMPUTE_APART'] = 'yes';
const port = Number(process.env['PORT'] ?? 3000);
const app = next({ dev: false, dir: import.meta.dirname, port });
await app.prepare();
const handle = app.getRequestHandler();
const server = createServer((request, response) => {
  // Where a request comes from, for the ledger; what a sender says about that does not count.
  request.headers[PEER_HEADER] = request.socket.remoteAddress ?? '';
  // What the API answers has a policy of its own, or none: it is no page.
  if (request.url?.startsWith('/api/')) return void handle(request, response);
  const policy = policyWith(newNonce());
  // Next.js reads the nonce there, and puts it on the scripts of the page.
  request.headers['content-security-policy'] = policy;
  response.setHeader('content-security-policy', policy);
  asPage(() => void handle(request, response));
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
