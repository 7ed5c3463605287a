import boundaries from 'eslint-plugin-boundaries';
import prettier from 'eslint-config-prettier';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

// Who may know whom: the layout composes pages, a page stands on the library and knows no other page,
// and the design system knows nobody who is signed in.
const a = (type, captured) => ({ element: captured ? { type, captured } : { type } });
const LIBRARY = ['lib', 'ui', 'sync', 'api'];
const POLICIES = [
  { from: a('testing'), allow: { to: a(['testing', ...LIBRARY]) } },
  { from: a('start'), allow: { to: a(['start', 'layout', 'feature', ...LIBRARY]) } },
  { from: a('layout'), allow: { to: a(['layout', 'feature', ...LIBRARY]) } },
  { from: a('feature'), allow: { to: a(LIBRARY) } },
  { from: a('feature'), allow: { to: a('feature', { slug: '{{from.element.captured.slug}}' }) } },
  { from: a('lib'), allow: { to: a(LIBRARY) } },
  { from: a('ui'), allow: { to: a(['ui', 'api']) } },
  { from: a('ui'), allow: { to: a('lib', { file: ['reader.svelte', 'units', 'paths', 'parts'] }) } },
  { from: a('sync'), allow: { to: a(['sync', 'api']) } },
  { from: a('api'), allow: { to: a('api') } },
  { from: a('api'), allow: { to: a('lib', { file: 'reader.svelte' }) } },
];

export default ts.config(
  {
    ignores: ['dist', '.svelte-check', 'src/locales', 'src/lib/api/schema.d.ts', 'src/lib/api/*.gen.ts'],
  },
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  prettier,
  ...svelte.configs.prettier,
  { languageOptions: { globals: { ...globals.browser, ...globals.node } } },
  {
    files: ['**/*.svelte', '**/*.svelte.ts', '**/*.svelte.test.ts'],
    languageOptions: {
      parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'], svelteConfig },
    },
  },
  {
    files: ['src/**'],
    plugins: { boundaries },
    settings: {
      'boundaries/legacy-warnings': false,
      'import/resolver': { typescript: { project: './tsconfig.json' } },
      'boundaries/elements': [
        { type: 'testing', pattern: 'src/testing/**', mode: 'full' },
        { type: 'start', pattern: ['src/main.ts', 'src/App.svelte'], mode: 'full' },
        { type: 'layout', pattern: 'src/layout/**', mode: 'full' },
        { type: 'feature', pattern: 'src/features/(*)/**', mode: 'full', capture: ['slug'] },
        { type: 'ui', pattern: 'src/lib/ui/**', mode: 'full' },
        { type: 'sync', pattern: 'src/lib/sync/**', mode: 'full' },
        { type: 'api', pattern: 'src/lib/api/**', mode: 'full' },
        { type: 'lib', pattern: 'src/lib/(*).ts', mode: 'full', capture: ['file'] },
        { type: 'lib', pattern: 'src/lib/*/**', mode: 'full' },
      ],
    },
    rules: {
      'boundaries/dependencies': ['error', { default: 'disallow', policies: POLICIES }],
      'boundaries/no-unknown-files': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      // What is likely is decided by the core: each chance comes with its likelihood.
      'no-restricted-syntax': [
        'error',
        ...['chance', 'probability', 'share'].flatMap((name) =>
          [`MemberExpression[property.name="${name}"]`, `Identifier[name="${name}"]`].map((what) => ({
            selector: `BinaryExpression[operator=/^[<>]=?$/] > ${what}`,
            message: `A verdict on a ${name} comes from the core (\`likelihood\`), not from the interface.`,
          })),
        ),
      ],
      // Maps and dates here are looked up, not shown.
      'svelte/prefer-svelte-reactivity': 'off',
      // Addresses are made by addressOf; the router takes plain links.
      'svelte/no-navigation-without-resolve': 'off',
    },
  },
  // A test may use what tests share, and set up whatever the thing it tests stands on.
  { files: ['src/**/*.test.ts'], rules: { 'boundaries/dependencies': 'off' } },
);
