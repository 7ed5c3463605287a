// Runs functions of one of the interface's own modules in Node: one JSON list of calls in, one of answers out.
import { fileURLToPath } from 'node:url';
import { readFileSync } from 'node:fs';

const root = fileURLToPath(new URL('../../frontend', import.meta.url));
const { createServer } = await import(`${root}/node_modules/vite/dist/node/index.js`);
const server = await createServer({
  root,
  configFile: false,
  resolve: { alias: { $lib: `${root}/src/lib` } },
  logLevel: 'error',
  server: { middlewareMode: true, ws: false },
  appType: 'custom',
  optimizeDeps: { noDiscovery: true },
});
const functions = await server.ssrLoadModule(process.argv[2]);
const answers = JSON.parse(readFileSync(0, 'utf8')).map(([name, ...given]) => functions[name](...given));
process.stdout.write(JSON.stringify(answers));
await server.close();
