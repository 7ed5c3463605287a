/** Which texts of the interface are in the catalogue of a language: `make texts` writes it, `vite.config.ts` builds with it. */
import { readFileSync } from 'node:fs';
import { adapter as components } from '@wuchale/svelte';
import { defineConfig, pofile } from 'wuchale';
import { adapter as modules, parseScript, Transformer } from 'wuchale/adapter-vanilla';
import { PSEUDO, pseudo } from './pseudo-language.js';

const language = process.env.SAND_POCKET_LANGUAGE;

/** Attributes that a person reads; the others are names, numbers and shapes. */
const READ =
  /^(title|label|alt|placeholder|text|none|waiting|hint|purpose|what|aria-(label|description|valuetext))$/;
/** A list of classes, a shape, a style, a selector, a key, a header or an operation of the API. */
const CODE = new RegExp(
  [
    /(^|[ :])-?(text|bg|border|font|min|max|rounded|gap|items|size|flex|grid|leading|list|absolute|block|tabular)-[\w[(]/,
    /(^|[ :])-?[mphw][trblxy]?-[\d[(]/,
    /^M [\d{]|^[\w-]+: (min|rep)|^\[|^input:|^color-mix|rem\)$|^[\w,]+,\w+_\w+,/,
    /^(X|Content|Retry)-|^(GET|POST|PUT|PATCH|DELETE) \//,
    /^(Arrow|Page)(Up|Down|Left|Right)?$|^(Enter|Escape|Home|End)$/,
  ]
    .map((part) => part.source)
    .join('|'),
);
/** Values by which the API names something, such as a verdict. */
const NAMES = new Set();
JSON.parse(readFileSync('src/lib/api/openapi.json', 'utf8'), (key, value) => {
  if (key === 'enum') value.forEach((name) => NAMES.add(name));
  if (key === 'const') NAMES.add(value);
  return value;
});

function heuristic(message) {
  const text = message.msgStr.join(' ');
  const { file, scope, attribute, element, call } = message.details;
  if (file.endsWith('messages.gen.ts')) return 'message';
  if (!/\p{L}/u.test(text) || element === 'code' || call?.startsWith('console.')) return false;
  if (scope === 'markup') return 'message';
  if (scope === 'attribute') return READ.test(attribute) ? 'message' : false;
  if (NAMES.has(text) || CODE.test(text)) return false;
  // One word is a text where it begins with a capital or ends in a sign; in small letters it is the name of something.
  return /\S\s+\S|^[^\p{L}]*\p{Lu}[\p{Ll}-]+[….:]?$|[…?]$/u.test(text) ? 'message' : false;
}

/** A module of TypeScript: its texts are looked up at once, those outside of functions too, and what names a property stays. */
class Module extends Transformer {
  visitProperty = (node) => [...(node.computed ? this.visit(node.key) : []), ...this.visit(node.value)];
  visitPropertyDefinition = (node) => (node.value ? this.visit(node.value) : []);
  transform = () => {
    const [ast, comments] = parseScript(this.content);
    this.comments = comments;
    const found = this.visit(ast);
    const begin = this.getRealBodyStart(ast.body) ?? 0;
    this.mstr.appendRight(begin, this.initRuntime());
    return this.finalize(found, begin);
  };
}

const ignore = ['src/**/*.test.ts', 'src/testing/**', 'src/**/*.d.ts', 'src/locales/**'];
const folder = { dir: 'locales' };
const common = {
  heuristic,
  sourceLocale: 'en',
  storage: language === PSEUDO ? pseudo(pofile(folder)) : pofile(folder),
  // A page's texts are loaded with the page.
  granularLoad: true,
  bundleLoad: true,
  generateLoadID: (file) => /features\/([\w-]+)/.exec(file)?.[1].replaceAll('-', '_') ?? 'shared',
};
/** The language is that of the build: nothing has to follow a change of it. */
const atOnce = ({ funcName, ctx }) => (ctx.module || funcName == null ? false : null);
const runtime = { initReactive: atOnce, useReactive: false };
const inModules = modules({
  ...common,
  loader: 'vite',
  generateLoadID: (file) => `modules_${common.generateLoadID(file)}`,
  runtime: { initReactive: ({ funcName }) => (funcName == null ? false : null) },
  files: { include: 'src/**/*.ts', ignore },
});

export default defineConfig({
  locales: language ? [language, 'en'] : ['en'],
  ai: null,
  logLevel: 'warn',
  adapters: {
    components: components({
      ...common,
      runtime,
      loader: 'svelte',
      files: { include: 'src/**/*.svelte', ignore },
    }),
    modules: {
      ...inModules,
      transform: ({ content, filename, index, expr, matchUrl }) =>
        new Module(
          content,
          filename,
          index,
          heuristic,
          inModules.patterns ?? [],
          expr,
          inModules.runtime,
          matchUrl,
        ).transform(),
    },
  },
});
