/** The borders between rooms; see docs/architecture.md. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  comment: `${from} may import only from ${allowed}`,
  from: { path: from, pathNot: '\\.test\\.ts$' },
  to: { pathNot: allowed },
});

/** The floors of the interface from the bottom up; files beside the rooms belong to the lowest. A room imports from its own floor and those below. */
const FLOORS = [
  ['client', 'primitives', 'editor', 'table', 'lists'],
  ['hands'],
  ['trade', 'builder'],
  ['alerts', 'chart', 'ladder', 'orders', 'pair', 'panels', 'story', 'ticket', 'waiting'],
  ['days', 'desk', 'keys', 'options', 'plans', 'rehearse', 'review', 'scan', 'setup'],
  ['guide', 'palette', 'shell'],
];
const rooms = (floors) => `^src/ui/(${floors.flat().join('|')})/`;
const floorRules = FLOORS.slice(0, -1).map((floor, n) => ({
  name: `ui-floor-${n + 1}`,
  severity: 'error',
  comment: `${floor.join(', ')}: nothing from the floors above`,
  from: { path: n === 0 ? `${rooms([floor])}|^src/ui/[^/]+$` : rooms([floor]), pathNot: '\\.test\\.ts$' },
  to: { path: rooms(FLOORS.slice(n + 1)) },
}));

module.exports = {
  forbidden: [
    ...floorRules,
    {
      name: 'ui-room-without-a-floor',
      severity: 'error',
      comment: 'a new room of the interface is put on a floor',
      from: {},
      to: { path: '^src/ui/[^/]+/', pathNot: rooms(FLOORS) },
    },
    {
      name: 'no-circle',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    only('core-stands-alone', '^src/core/', '^src/core/'),
    {
      name: 'core-by-its-doors',
      severity: 'error',
      comment: 'a folder of core is entered by its index.ts',
      from: { path: '^src/core/([^/]+)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/core/', pathNot: ['^src/core/$1/', '/index\\.ts$'] },
    },
    {
      name: 'core-by-its-doors-outside',
      severity: 'error',
      from: { path: '^src/(session|worker|store|ui|app|server)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/core/', pathNot: '/index\\.ts$' },
    },
    only('session-on-core', '^src/session/', '^src/(core|session)/'),
    only(
      'server-on-session',
      '^src/server/',
      '^(src/(core|session|server)/|node_modules/(papaparse|@types/papaparse|hyparquet-writer|hyparquet|yup)/|node:|(crypto|fs|path|util|zlib|fs/promises)$)',
    ),
    only('store-is-a-port', '^src/store/', '^(src/(core|session|store)/|node_modules/)'),
    only(
      'worker-on-session',
      '^src/worker/',
      '^(src/(core|session|store|worker)/|node_modules/(papaparse|@types/papaparse|hyparquet|hyparquet-writer|luxon|@types/luxon)/)',
    ),
    {
      name: 'ui-through-the-client',
      severity: 'error',
      from: { path: '^src/ui/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/(session|worker/[^/]+/(host|[a-z-]+\\.worker))', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'ui-not-on-routes',
      severity: 'error',
      from: { path: '^src/(ui|worker|store|session|core|server)/' },
      to: { path: '^src/app/' },
    },
    {
      name: 'routes-are-thin',
      severity: 'error',
      from: { path: '^src/app/' },
      to: { path: '^src/(core|session|store|worker)/' },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.mjs', '.js'] },
  },
};
