// Runs functions of the interface's own modules in Node: a line in names a module and its calls, a line out has the answers.
import { fileURLToPath } from 'node:url';
import { createInterface } from 'node:readline';

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
for await (const line of createInterface({ input: process.stdin })) {
  const [module, calls] = JSON.parse(line);
  const functions = await server.ssrLoadModule(module);
  process.stdout.write(`${JSON.stringify(calls.map(([name, ...given]) => functions[name](...given)))}\n`);
}
await server.close();
