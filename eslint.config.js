import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import globals from 'globals';
import ts from 'typescript-eslint';

/**
 * The rooms of the web client (docs/ARCHITECTURE.md). Each may import from those named, from itself, and from packages; tests may
 * import from all.
 */
const TOOLS = [
  'capture',
  'device',
  'look',
  'outbox',
  'pdf',
  'pictures',
  'playback',
  'reading',
  'server',
  'typeset',
  'workers',
];
const STATE = ['app/outbox', 'app/session'];
const LESSON = ['lesson', 'making', 'drives', ...TOOLS, ...STATE, 'controls'];
const PAGE = ['ask', 'board', 'live', 'pages', 'bring-in', 'trail', ...LESSON];
const STEP = ['page-bar', ...PAGE];
const ROOMS = {
  controls: ['device', 'look'],
  device: [],
  look: [],
  outbox: ['server', 'device'],
  server: ['workers'],
  capture: ['outbox', 'server', 'workers', 'device'],
  playback: ['workers'],
  workers: ['capture', 'pictures', 'reading', 'typeset'],
  pictures: ['pdf', 'server'],
  pdf: [],
  reading: ['workers'],
  typeset: ['workers'],
  // The student's page knows nothing of the teacher's.
  watch: ['playback', 'pictures', 'look', 'device'],
  follow: ['playback', 'pictures', 'look', 'device', 'watch/opening/ask', 'watch/page/own-look'],
  account: ['app/session', 'app/outbox', 'controls', 'device', 'look', 'server'],
  drives: ['controls', 'device', 'look', 'server'],
  making: [...TOOLS, 'controls', 'drives'],
  home: [
    ...STATE,
    'tasks',
    'making',
    'bring-in/dropped-files',
    'bring-in/waiting-files',
    'set-aside',
    'controls',
    'device',
    'look',
    'server',
    'workers',
  ],
  // What lies around the page knows the lesson, and no step.
  lesson: [...PAGE, 'set-aside'],
  'set-aside': ['trail', ...LESSON],
  ask: ['tasks', ...PAGE],
  board: PAGE,
  live: LESSON,
  pages: PAGE,
  'bring-in': PAGE,
  trail: PAGE,
  'page-bar': PAGE,
  // Steps do not know one another.
  prepare: STEP,
  record: STEP,
  trim: STEP,
  share: [...STEP, 'tasks'],
  // Students make lessons as teachers do, and have a home of their own.
  study: [...STEP, 'set-aside'],
  // What a class is given to do, and what comes of it.
  tasks: ['controls', 'device', 'look', 'pdf', 'pictures', 'server'],
  marking: [...STEP, 'share/sharing', 'tasks'],
};
const ALL_ROOMS = [...Object.keys(ROOMS), 'app'];

const roomRules = Object.entries(ROOMS).map(([room, allowed]) => {
  const wholly = ALL_ROOMS.filter((one) => one !== room && !allowed.includes(one));
  const patterns = wholly.map((one) => {
    const parts = allowed.filter((path) => path.startsWith(`${one}/`)).map((path) => path.slice(one.length + 1));
    const except = parts.length > 0 ? `(?!(${parts.join('|')})$)` : '';
    return { regex: `^(\\.\\./)+${one}/${except}`, message: `“${room}” may not import from “${one}”.` };
  });
  return {
    files: [`web/src/${room}/**/*.{ts,vue}`],
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-imports': ['error', { patterns }] },
  };
});

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'data/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue', '**/*.ts'],
    languageOptions: { parserOptions: { parser: ts.parser }, globals: { ...globals.browser, ...globals.node } },
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      'vue/multi-word-component-names': 'off',
    },
  },
  { files: ['**/*.js', '**/*.mjs'], languageOptions: { globals: globals.node } },
  {
    // Core runs in the page, in workers and on the server: it may reach for none of them.
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: ['node:*', 'vue', 'pinia', 'express', 'knex', '@kite-trail/*'] }],
    },
  },
  ...roomRules,
  prettier,
);
