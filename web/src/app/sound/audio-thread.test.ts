import { jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { AudioThread } from './audio-thread';

/** The sound of a machine: its clock runs as soon as it is let out. */
class Machine {
  static last: Machine;
  state: AudioContextState = 'suspended';
  currentTime = 0;
  readonly sampleRate = 48000;
  readonly destination = {};
  readonly audioWorklet = { addModule: async () => undefined };
  resumed = 0;
  closed = false;
  constructor() {
    Machine.last = this;
  }
  resume = async () => void this.resumed++;
  close = async () => void (this.closed = true);
}
class Tap {
  port = { onmessage: null, postMessage: () => undefined };
  connect = () => undefined;
}
const stoodIns = { AudioContext: Machine, AudioWorkletNode: Tap, AnalyserNode: Tap };

beforeEach(() => {
  jest.useFakeTimers();
  Object.assign(globalThis, stoodIns);
});
afterEach(() => {
  jest.useRealTimers();
  for (const name of Object.keys(stoodIns)) Reflect.deleteProperty(globalThis, name);
});

/** Live sound that was wished for, and its machine. */
async function started() {
  const thread = TestBed.inject(AudioThread);
  await thread.start(() => undefined);
  return { thread, machine: Machine.last };
}

describe('the thread of live sound', () => {
  it('says nothing of a machine whose clock runs', async () => {
    const { thread, machine } = await started();
    machine.currentTime = 0.01;
    jest.advanceTimersByTime(5000);
    expect([thread.state(), thread.fault(), jest.getTimerCount()]).toEqual(['on', '', 0]);
  });

  it('says that the browser waits for a hand on the page, and lets sound out at the first', async () => {
    const { thread, machine } = await started();
    jest.advanceTimersByTime(1900);
    expect(thread.fault()).toBe('');
    jest.advanceTimersByTime(200);
    expect(thread.fault()).toMatch(/click on this page/);
    const before = machine.resumed;
    dispatchEvent(new Event('pointerdown'));
    expect(machine.resumed).toBe(before + 1);
    machine.currentTime = 0.02;
    jest.advanceTimersByTime(100);
    expect([thread.fault(), jest.getTimerCount()]).toEqual(['', 0]);
    dispatchEvent(new Event('pointerdown'));
    expect(machine.resumed).toBe(before + 1);
  });

  it('says that a machine lets no sound out, also one that did before', async () => {
    const { thread, machine } = await started();
    machine.state = 'running';
    machine.currentTime = 3;
    jest.advanceTimersByTime(100);
    await thread.start(() => undefined);
    jest.advanceTimersByTime(2000);
    expect(thread.fault()).toMatch(/This machine lets no sound out/);
    // What else went wrong since is not taken back with it.
    thread.fault.set('Something else.');
    machine.currentTime = 4;
    jest.advanceTimersByTime(100);
    expect(thread.fault()).toBe('Something else.');
  });

  it('looks no longer when the page is left', async () => {
    const { machine } = await started();
    TestBed.resetTestingModule();
    expect([machine.closed, jest.getTimerCount()]).toEqual([true, 0]);
  });
});
