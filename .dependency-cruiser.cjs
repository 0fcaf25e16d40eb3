// Who may import whom. `core` is pure; data flows one way: core → recorder/player/server → ui → app.
const from = (folder) => ({ path: `^src/${folder}/`, pathNot: '\\.test\\.tsx?$' });
const only = (folder, allowed) => ({
  name: `${folder}-imports`,
  comment: `src/${folder} may use: ${allowed.join(', ')}`,
  severity: 'error',
  from: from(folder),
  to: { path: '^src/', pathNot: `^src/(${[folder, ...allowed].join('|')})/` },
});

/** Rooms of a folder from the ground up: each may use those before it, and what lies in the folder itself is used by none of them. */
const rooms = (folder, names) =>
  names.map((room, n) => ({
    name: `${folder}-${room}`,
    comment: `src/${folder}/${room} may use: ${names.slice(0, n).join(', ') || 'nothing of its kind'}`,
    severity: 'error',
    from: from(`${folder}/${room}`),
    to: { path: `^src/${folder}/`, pathNot: `^src/${folder}/(${names.slice(0, n + 1).join('|')})/` },
  }));

const CORE = [
  ...['base', 'image', 'codec', 'destination', 'audio', 'rig', 'layout', 'recording', 'encoding', 'cut'],
  ...['rehearsal', 'deliver', 'commands', 'keeping', 'findings', 'views'],
];

const SERVER = [
  ...[
    'process',
    'http',
    'db',
    'media',
    'keeping',
    'jobs',
    'load',
    'lessons',
    'rehearsals',
    'sharing',
    'takes',
    'bring',
    'cuts',
    'delivery',
  ],
  ...['tasks', 'maintenance', 'demo'],
];
const UI = [
  ...['look', 'wire', 'drawing', 'fields', 'keys', 'page', 'player', 'recording', 'lesson', 'take'],
  ...['set-up', 'rehearse', 'record', 'edit', 'hand-over', 'lessons', 'rigs', 'bin', 'lab'],
];

module.exports = {
  forbidden: [
    only('core', []),
    ...rooms('core', CORE),
    ...rooms('server', SERVER),
    ...rooms('ui', UI),
    {
      name: 'core-is-pure',
      comment: 'src/core is computation over plain data: no Node, React, database or framework',
      severity: 'error',
      from: from('core'),
      to: { dependencyTypes: ['core', 'npm', 'npm-dev'], pathNot: '^node_modules/zod/' },
    },
    only('practice', ['core']),
    only('sound', ['core']),
    only('recorder', ['core', 'practice', 'sound']),
    only('player', ['core', 'sound']),
    only('server', ['core', 'sound']),
    only('ui', ['core', 'practice', 'recorder', 'player', 'sound']),
    { name: 'no-cycles', severity: 'error', from: { path: '^(src|scripts)/' }, to: { circular: true } },
    {
      name: 'no-orphans',
      severity: 'error',
      from: { orphan: true, path: '^src/', pathNot: '\\.(d|test|worker)\\.tsx?$' },
      to: {},
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default'],
    },
  },
};
