// The page that tells of every kind of module, made from the catalogue.
const TITLES = {
  keys: 'Keys, voices and hands',
  oscillators: 'Oscillators and noise',
  filters: 'Filters',
  tone: 'Filters that overload, ring and speak',
  shaping: 'What holds, follows and shares out voltages',
  rows: 'Rows of voltages',
  modulators: 'Envelopes and low frequency oscillators',
  tools: 'Mixing, levels, logic',
  effects: 'Effects',
};

const HEAD = `# Modules

An instrument's circuit is made of these. This page is written from \`core/src/catalogue\` by \`npm run schemas\`; the code that computes each kind is in \`core/src/sound/kernels\`, and the tests beside it hold every equation against its closed form.

- Volts everywhere: audio about ±5 V, envelopes 0 to 5, LFOs ±5, gates 0 or 5 (open above 2.5), pitch 1 V an octave with 0 V at C4. Several wires into one port add. Nothing goes over ±20 V.
- A sync line carries -1, or, where a cycle begins, how many samples ago it did.
- Modules that feed each other in a circle are computed sample by sample; what closes the circle comes one sample late.
- Behind a module that opens voices everything runs once a voice, up to a module that closes them.
- A turned parameter arrives within 8 ms, in straight steps; frequencies and times by equal ratios.
- An input that is named under *By voltage* moves a parameter beside its control, from where that stands and within its range. It is read at the beginning of each 64 samples (1.3 ms at 48 kHz), and the parameter is there at their end, in a straight line.
- All arithmetic is made of additions, multiplications, divisions, square roots and tables made of those: the same patch gives the same samples in a page, a worker, an audio thread and a server, for the same seed.
- *p* is the phase of a cycle, 0 to 1; *s* the complex frequency over the cutoff's; a name with \`-in\` is the input of that name where a parameter is called the same.
`;

const ports = (of) =>
  Object.keys(of).length === 0
    ? 'none'
    : Object.entries(of)
        .map(([name, kind]) => `\`${name}\` (${kind})`)
        .join(', ');

/** How voltages move parameters, a volt. */
const moves = ({ byVoltage, params }) =>
  Object.entries(byVoltage)
    .map(([port, { params: names, by }]) => {
      const what = names.length > 1 ? ` moves ${names.map((n) => `\`${n}\``).join(', ')}` : '';
      const how = by === 'octaves' ? 'doubles' : `${by}${unitOf(params[names[0]])}`;
      return `\`${port}\`${what} ${how} a volt`;
    })
    .join('; ');
const unitOf = ({ unit }) => (unit === '' ? '' : ` ${unit}`);

function param([name, p]) {
  if (p.kind === 'choice') return `| \`${name}\` | ${p.choices.join(', ')} | ${p.default} | |`;
  const unit = p.unit === '' ? '' : ` ${p.unit}`;
  return `| \`${name}\` | ${p.lo} to ${p.hi}${unit} | ${p.default} | ${p.neutral ?? ''} |`;
}

function section([kind, spec]) {
  const voices = { open: 'Opens voices.', close: 'Takes voices together.' }[spec.voices] ?? '';
  const params = Object.entries(spec.params);
  return [
    `### ${kind}`,
    '',
    [spec.summary, voices].filter(Boolean).join(' '),
    '',
    `- In: ${ports(spec.inputs)}`,
    ...(spec.byVoltage ? [`- By voltage: ${moves(spec)}`] : []),
    `- Out: ${ports(spec.outputs)}`,
    `- Equation: ${spec.equation.replaceAll('*', '\\*')}`,
    ...(spec.source ? [`- Source: ${spec.source}`] : []),
    '',
    ...(params.length === 0
      ? ['No parameters.', '']
      : [
          '| Parameter | Range | Default | Contributes nothing at |',
          '| --- | --- | --- | --- |',
          ...params.map(param),
          '',
        ]),
  ].join('\n');
}

/** The whole page, in Markdown. */
export function modulesPage(families, chords) {
  const parts = Object.entries(families).map(
    ([family, kinds]) => `## ${TITLES[family]}\n\n${Object.entries(kinds).map(section).join('\n')}`,
  );
  const types = Object.entries(chords).map(([name, notes]) => `\`${name}\` (${notes.join(' ')})`);
  return `${HEAD}\n${parts.join('\n')}\n## Chord types\n\nSemitones above the root: ${types.join(', ')}.\n`;
}
