/** Imports go one way. A room may import what its line allows and nothing else; see CONTRIBUTING.md. */
const core = 'packages/core/src';
/** core's rooms, and which of their neighbours each may import */
const rooms = {
  errors: [],
  math: ['errors'],
  mesh: ['errors', 'math'],
  select: ['errors', 'math', 'mesh'],
  subdivide: ['errors', 'math', 'mesh'],
  shapes: ['errors', 'math'],
  ops: ['errors', 'math', 'mesh', 'subdivide', 'shapes', 'pick', 'remesh', 'fill'],
  fill: ['math'],
  remesh: ['errors', 'math', 'mesh', 'surface'],
  surface: ['errors', 'math', 'mesh'],
  retopo: ['errors', 'math', 'mesh', 'surface', 'fill'],
  pick: ['errors', 'math', 'mesh'],
  inspect: ['errors', 'math', 'mesh', 'surface'],
  formats: ['errors', 'math', 'mesh'],
  raster: ['errors', 'math'],
  testing: ['errors', 'math', 'mesh'],
};
/** the rooms of retopo, and which of their neighbours each may import; what lies beside them puts them together */
const retopoRooms = {
  form: [],
  lines: ['form'],
  field: ['form', 'lines'],
  quads: ['form', 'lines'],
  grid: ['form', 'lines', 'field', 'quads'],
  fit: ['form', 'lines', 'quads'],
  mend: ['form', 'lines', 'quads', 'fit'],
  limbs: ['form', 'lines', 'quads', 'fit', 'mend'],
};
/** outside packages by room; every other room may have none */
const packages = {
  surface: '^(three|three-mesh-bvh|meshoptimizer)$',
  formats: '^(@gltf-transform/(core|extensions)|draco3dgltf|meshoptimizer)$',
  testing: '^(@gltf-transform/(core|extensions)|draco3dgltf|meshoptimizer)$',
  ops: '^(zod|manifold-3d)',
  select: '^zod',
};
/** tests, and what they share beside them */
const test = '(\\.test|/fixtures)\\.ts$';

const coreRooms = Object.entries(rooms).flatMap(([room, allowed]) => [
  {
    name: `core-${room}-neighbours`,
    severity: 'error',
    from: { path: `^${core}/${room}/`, pathNot: test },
    to: { path: `^${core}/`, pathNot: `^${core}/(${[room, ...allowed].join('|')})/` },
  },
  {
    name: `core-${room}-packages`,
    severity: 'error',
    from: { path: `^${core}/${room}/`, pathNot: test },
    to: {
      path: 'node_modules',
      pathNot: packages[room] ? packages[room].replace('^', 'node_modules/').replace('$', '/') : '^$',
    },
  },
]);

const withinRetopo = Object.entries(retopoRooms).map(([room, allowed]) => ({
  name: `retopo-${room}-neighbours`,
  severity: 'error',
  from: { path: `^${core}/retopo/${room}/`, pathNot: test },
  to: { path: `^${core}/retopo/`, pathNot: `^${core}/retopo/(${[room, ...allowed].join('|')})/` },
}));

/** the page's rooms */
const web = 'apps/web/src';
const pageRooms = {
  kit: [],
  session: ['workers'],
  workers: [],
  viewport: ['session', 'kit'],
  tools: ['session', 'viewport'],
  screens: ['kit', 'session', 'viewport', 'tools', 'workers'],
};
const webRooms = Object.entries(pageRooms).map(([room, allowed]) => ({
  name: `web-${room}-neighbours`,
  severity: 'error',
  from: { path: `^${web}/${room}/`, pathNot: test },
  to: { path: `^${web}/`, pathNot: `^${web}/(${[room, ...allowed].join('|')})/` },
}));

const own = (name, from, to) => ({ name, severity: 'error', from: { path: from }, to: { path: to } });

module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true, dependencyTypesNot: ['type-only'] } },
    // the bundler resolves a query; the type check and the build fail where such a file is missing
    { name: 'no-unresolved', severity: 'error', from: {}, to: { couldNotResolve: true, pathNot: '\\.wasm\\?url$' } },
    ...coreRooms,
    ...withinRetopo,
    ...webRooms,
    own('core-is-the-bottom', `^${core}`, '^(packages/(contract|studies|threads)|apps)/'),
    own('contract-knows-core-only', '^packages/contract', '^(packages/(studies|threads)|apps)/'),
    own('studies-know-no-app', '^packages/studies', '^(packages/threads|apps)/'),
    own('threads-know-core-only', '^packages/threads', '^(packages/(contract|studies)|apps)/'),
    own('server-is-alone', '^apps/server', '^apps/(web|cli)/'),
    own('web-is-alone', '^apps/web', '^(apps/(server|cli)|packages/(studies|threads))/'),
    own('cli-is-alone', '^apps/cli', '^(apps/(server|web)|packages/studies)/'),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(dist|test-results)/' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.tsx', '.mjs', '.js'],
    },
  },
};
