// Who may import whom. `core` is pure; data flows one way: core → recorder/player/server → ui → app.
const from = (folder) => ({ path: `^src/${folder}/`, pathNot: '\\.test\\.ts$' });
const only = (folder, allowed) => ({
  name: `${folder}-imports`,
  comment: `src/${folder} may use: ${allowed.join(', ')}`,
  severity: 'error',
  from: from(folder),
  to: { path: '^src/', pathNot: `^src/(${[folder, ...allowed].join('|')})/` },
});

module.exports = {
  forbidden: [
    only('core', []),
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
      from: { orphan: true, path: '^src/', pathNot: '\\.(d|test)\\.ts$' },
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
