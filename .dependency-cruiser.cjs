/** The rooms of the house and their one-way arrows; see docs/architecture.md. */
const coreOrder = [
  'outcome',
  'quantity',
  'rules',
  'catalogue',
  'survey',
  'disk',
  'manifest',
  'assess',
  'route',
  'backup',
  'machine',
  'media',
  'firmware',
  'runbook',
  'trouble',
  'decide',
  'rehearse',
  'schedule',
  'record',
];

const coreRules = coreOrder.map((folder, index) => ({
  name: `core-${folder}-looks-up-only`,
  comment: 'Inside core a folder imports only from folders listed above it.',
  severity: 'error',
  from: { path: `^packages/core/src/${folder}/` },
  to: { path: `^packages/core/src/(${coreOrder.slice(index + 1).join('|') || 'nothing'})/` },
}));

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    ...coreRules,
    {
      name: 'core-is-pure',
      comment:
        'Core knows no framework, no I/O and no other room; Zod, date-fns, picomatch, crc-32, canonicalize and jsonc-parser are its only dependencies.',
      severity: 'error',
      from: { path: '^packages/core/src' },
      to: {
        path: '^(apps|packages/(contract|demo))|node_modules/(?!zod|date-fns|@date-fns|picomatch|crc-32|canonicalize|jsonc-parser)',
        dependencyTypesNot: ['type-only'],
      },
    },
    {
      name: 'contract-knows-core-only',
      severity: 'error',
      from: { path: '^packages/contract/src' },
      to: { path: '^(apps|packages/demo)' },
    },
    {
      name: 'demo-knows-core-only',
      severity: 'error',
      from: { path: '^packages/demo/src' },
      to: { path: '^(apps|packages/contract)' },
    },
    {
      name: 'web-knows-no-server',
      severity: 'error',
      from: { path: '^apps/web' },
      to: { path: '^(apps/server|packages/demo)' },
    },
    {
      name: 'server-knows-no-web',
      severity: 'error',
      from: { path: '^apps/server' },
      to: { path: '^apps/web' },
    },
    {
      name: 'web-ground-floor-knows-no-view',
      comment: 'What every view uses knows none of them.',
      severity: 'error',
      from: { path: '^apps/web/src/(api|shell|workers)/' },
      to: { path: '^apps/web/src/(?!(api|shell|workers)/)' },
    },
    {
      name: 'http-knows-no-room',
      comment: 'How requests are served knows nothing of what they ask for.',
      severity: 'error',
      from: { path: '^apps/server/src/http/' },
      to: { path: '^apps/server/src/(accounts|drives|files|house|log|moves|paper|seed|today|vault)/' },
    },
    {
      name: 'entities-stay-in-their-folder',
      comment: 'A folder reaches into another through its service, never through its entity.',
      severity: 'error',
      from: { path: '^apps/server/src/([^/]+)/', pathNot: '^apps/server/src/(database|seed)/' },
      to: { path: '^apps/server/src/([^/]+)/.*\\.entity\\.ts$', pathNot: '^apps/server/src/$1/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|test)/' },
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.json'],
    },
    tsPreCompilationDeps: true,
  },
};
