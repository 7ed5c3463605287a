// Runs the interface's own functions on units in Node: one JSON list of calls in, one of answers out.
import { fileURLToPath } from 'node:url';
import { readFileSync } from 'node:fs';

const root = fileURLToPath(new URL('../../frontend', import.meta.url));
const { createServer } = await import(`${root}/node_modules/vite/dist/node/index.js`);
const server = await createServer({
  root,
  configFile: false,
  logLevel: 'error',
  server: { middlewareMode: true, ws: false },
  appType: 'custom',
  optimizeDeps: { noDiscovery: true },
});
const units = await server.ssrLoadModule('/src/lib/units.ts');
const answers = JSON.parse(readFileSync(0, 'utf8')).map(([name, ...given]) => units[name](...given));
process.stdout.write(JSON.stringify(answers));
await server.close();
