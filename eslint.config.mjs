import js from '@eslint/js';
import tseslint from 'typescript-eslint';

/** The rooms of docs/architecture, highest first: a room imports only from rooms below it. */
const rooms = ['web', 'server', 'core', 'kernel'];
const above = (room) => rooms.slice(0, rooms.indexOf(room));

/** Inside core: which subjects a subject may use. A folder is entered only through its index. */
const coreSubjects = {
  document: [],
  geometry: [],
  optics: ['document', 'geometry'],
  motion: ['document', 'geometry'],
  intake: ['document', 'geometry', 'optics', 'motion'],
  develop: ['document', 'optics'],
  trace: ['document', 'motion', 'geometry', 'optics', 'develop'],
  reel: ['document'],
};

const forbid = (patterns, message) => ({
  'no-restricted-imports': ['error', { patterns: [{ group: patterns, message }] }],
});

export default tseslint.config(
  { ignores: ['**/node_modules', '**/dist', '**/build', '**/.angular', '.data', 'kernel/assembly'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      'no-undef': 'off',
      eqeqeq: 'error',
    },
  },
  {
    files: ['web/**/*.ts'],
    rules: forbid(['@zippy/server*', '**/server/src/**', '**/core/*/*'], 'web uses core through its subjects only.'),
  },
  {
    files: ['server/**/*.ts'],
    rules: forbid(['@zippy/web*', '**/web/src/**', '@angular/*', '@ngrx/*'], 'The server knows nothing of the page.'),
  },
  ...Object.entries(coreSubjects).map(([subject, allowed]) => ({
    files: [`core/${subject}/**/*.ts`],
    // Tests may bring their scenes and pictures from anywhere in core.
    ignores: ['**/*.spec.ts', '**/testing/**'],
    rules: forbid(
      [
        ...above('core').map((room) => `@zippy/${room}*`),
        '@angular/*',
        '@ngrx/*',
        'express',
        'typeorm',
        ...Object.keys(coreSubjects)
          .filter((other) => other !== subject)
          .map((other) => (allowed.includes(other) ? `**/../${other}/*` : `**/../${other}`)),
        ...Object.keys(coreSubjects)
          .filter((other) => other !== subject && !allowed.includes(other))
          .map((other) => `**/../${other}/**`),
      ],
      'Imports inside core point downwards only, through the index of a subject.',
    ),
  })),
);
