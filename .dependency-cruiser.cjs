/** The borders between rooms; see docs/architecture.md. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  comment: `${from} may import only from ${allowed}`,
  from: { path: from, pathNot: '\\.test\\.ts$' },
  to: { pathNot: allowed },
});

module.exports = {
  forbidden: [
    {
      name: 'no-circle',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'no-circle-of-types-in-the-language',
      severity: 'error',
      from: { path: '^src/core/language/' },
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
      to: { path: '^src/(session|worker/(host|session\\.worker))', dependencyTypesNot: ['type-only'] },
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
