/**
 * What may import what; `npm run lint` holds it. The core has floors: a folder may use what stands below it, never what stands
 * above or beside it. docs/architecture.md draws them.
 */
const FLOORS = [
  ['theory', 'document', 'formats'],
  ['pattern'],
  ['catalogue'],
  ['instrument'],
  ['reading'],
  ['patch'],
  ['unit', 'circuit'],
  ['sequence', 'panel'],
  ['outline'],
  ['modelling'],
  ['sound'],
  ['measure', 'midi'],
  ['checkup'],
  ['rebuild'],
  ['session'],
  ['evening'],
];

const floors = FLOORS.flatMap((folders, floor) =>
  folders.map((folder) => ({
    name: `floor-of-${folder}`,
    comment: `core/src/${folder} may use only what stands below it.`,
    severity: 'error',
    from: { path: `^core/src/${folder}/` },
    to: {
      path: '^core/src/',
      pathNot: `^core/src/(${[...FLOORS.slice(0, floor).flat(), folder].join('|')})/`,
    },
  })),
);

module.exports = {
  forbidden: [
    {
      name: 'no-circle',
      comment: 'Two files that need each other want a third one below them. Types count too.',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    {
      name: 'no-folder-circle',
      comment: 'Two folders that need each other are one, or want their order told.',
      severity: 'error',
      scope: 'folder',
      from: {},
      to: { circular: true },
    },
    ...floors,
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.test\\.ts$|/testing/|\\.d\\.ts$' },
  },
};
