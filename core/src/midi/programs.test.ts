import { ProgramReader } from './programs';

describe('programs that come in', () => {
  it('carry the banks that were selected before them, channel by channel', () => {
    const reader = new ProgramReader();
    expect(reader.take([0xc0, 5])).toEqual({ channel: 1, program: 5 });
    expect(reader.take([0xb0, 0, 2])).toBeUndefined();
    expect(reader.take([0xc0, 5])).toEqual({ channel: 1, program: 5, coarse: 2 });
    reader.take([0xb0, 32, 7]);
    expect(reader.take([0xc0, 127])).toEqual({ channel: 1, program: 127, coarse: 2, fine: 7 });
    expect(reader.take([0xc3, 0])).toEqual({ channel: 4, program: 0 });
  });

  it.each([
    ['a note', [0x90, 60, 100]],
    ['another controller', [0xb0, 74, 3]],
    ['one that is cut short', [0xc0]],
    ['one out of range', [0xc0, 128]],
    ['nothing', []],
  ])('are not %s', (_, bytes) => {
    expect(new ProgramReader().take(bytes)).toBeUndefined();
  });
});
