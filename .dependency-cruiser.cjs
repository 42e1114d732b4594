// Who may import whom (docs/design.md). A new arrow is a decision, not an accident.

const CORE = 'packages/core/src';
/** Folders of core, each of which imports only from those before it. */
const ORDER = [
  'values',
  'findings',
  'dictionary',
  'sets',
  'rules',
  'meanings',
  'tables',
  'compare',
  'motor',
  'signals',
  'wiring',
  'behaviour',
  'live',
  'checks',
  'plans',
  'replace',
  'prove',
  'start',
  'formats',
];

const SERVER = 'apps/server/src';
/**
 * Rooms of the server by floors, from the top down and on each floor from left to right (docs/design.md): each imports only
 * from those after it, so that no two import each other.
 */
const FLOORS = [
  ['demo'],
  ['integrity', 'papers', 'reaching'],
  ['replacing', 'drafting', 'proving'],
  ['changes'],
  ['decisions', 'axes', 'writing', 'key-in'],
  ['overview', 'checks', 'dry-run', 'traces', 'live', 'peers', 'compare', 'look-ups'],
  ['rounds', 'backup', 'read-off', 'find-units', 'motors', 'files', 'tolerations'],
  ['jobs', 'sets', 'drafts', 'proofs', 'wiring', 'register', 'catalogue'],
  ['lines', 'queue', 'access', 'plant', 'logbook', 'file-content', 'storage', 'problems'],
];
const ROOMS = FLOORS.flat();

const roomRules = ROOMS.map((room, at) => ({
  name: `server-${room}`,
  severity: 'error',
  comment: `server/${room} imports only from ${ROOMS.slice(at + 1).join(', ') || 'no other room'}`,
  from: { path: `^${SERVER}/${room}/`, pathNot: '(\\.spec\\.ts$|/testing/)' },
  to: { path: `^${SERVER}/(${ROOMS.slice(0, at).join('|') || 'none'})/` },
}));

const coreRules = ORDER.map((folder, at) => ({
  name: `core-${folder}`,
  severity: 'error',
  comment: `core/${folder} imports only from ${ORDER.slice(0, at).join(', ') || 'nothing in core'}`,
  from: { path: `^${CORE}/${folder}/`, pathNot: '(\\.spec\\.ts$|/testing/)' },
  to: { path: `^${CORE}/(${ORDER.slice(at + 1).join('|') || 'none'})/` },
}));

const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '(\\.spec\\.tsx?$|/testing/)' },
  to: { path: '^(packages|apps|e2e|scripts)/', pathNot: allowed },
});

module.exports = {
  forbidden: [
    {
      name: 'no-circular',
      comment: 'Entities that refer to each other must, and do it through functions (TypeORM)',
      severity: 'error',
      from: { pathNot: '\\.entity\\.ts$' },
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'], pathNot: '\\.entity\\.ts$' } },
    },
    { name: 'not-to-app', severity: 'error', from: { pathNot: '^apps/' }, to: { path: '^apps/' } },
    {
      name: 'no-node-in-core',
      severity: 'error',
      from: { path: `^${CORE}/`, pathNot: '(\\.spec\\.ts$|/testing/)' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'no-framework-in-core',
      severity: 'error',
      from: { path: `^${CORE}/`, pathNot: '(\\.spec\\.ts$|/testing/)' },
      to: { path: 'node_modules/', pathNot: 'node_modules/(@noble/hashes|csv-parse|csv-stringify|yaml)/' },
    },
    ...coreRules,
    ...roomRules,
    {
      name: 'server-rooms-are-known',
      comment: 'A new room gets its place among the floors',
      severity: 'error',
      from: { path: '^apps/server/src/' },
      to: { path: '^apps/server/src/[^/]+/', pathNot: `^${SERVER}/(${ROOMS.join('|')}|testing)/` },
    },
    {
      name: 'lines-are-the-one-way-to-a-unit',
      severity: 'error',
      from: { path: `^${SERVER}/`, pathNot: `(^${SERVER}/lines/|\\.spec\\.ts$|/testing/)` },
      to: {
        path: `^${SERVER}/lines/(modbus-line|line-turns|unit-reader|unit-writer)\\.ts$`,
        dependencyTypesNot: ['type-only'],
      },
    },
    only('core-alone', `^${CORE}/`, `^${CORE}/`),
    only('api-only-core', '^packages/api/', '^packages/(api|core)/'),
    only(
      'sim-only-dictionary-and-values',
      '^packages/plant-sim/',
      '^packages/(plant-sim/|core/src/(dictionary|values)/)',
    ),
    only(
      'server-only-core-and-api',
      '^apps/server/',
      '^(apps/server|packages/(core|api))/|^packages/plant-sim/src/index',
    ),
    only('web-only-core-and-api', '^apps/web/', '^(apps/web|packages/(core|api))/'),
    {
      name: 'sim-in-server-is-types-only',
      severity: 'error',
      from: { path: '^apps/server/', pathNot: '(\\.spec\\.ts$|/testing/)' },
      to: { path: '^packages/plant-sim/', dependencyTypesNot: ['type-only'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(/dist/|/dist-types/)' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      conditionNames: ['source', 'import', 'default'],
      exportsFields: ['exports'],
      extensions: ['.ts', '.tsx', '.js', '.mjs'],
    },
  },
};
