import { MessageChannel } from 'node:worker_threads';
import { expose } from 'comlink';
import nodeEndpoint from 'comlink/dist/umd/node-adapter';

/** A worker over a real message channel, that knows whether it was ended. */
export function workerOver(jobs: object) {
  const { port1, port2 } = new MessageChannel();
  expose(jobs, nodeEndpoint(port2));
  const errors = new EventTarget();
  const near = nodeEndpoint(port1);
  const state = { ended: false };
  const fake = {
    ...near,
    start: undefined,
    postMessage: near.postMessage,
    addEventListener: (type: string, listener: never, options?: never) =>
      type === 'error'
        ? errors.addEventListener(type, listener)
        : near.addEventListener(type, listener, options),
    removeEventListener: near.removeEventListener,
    terminate: () => {
      state.ended = true;
      port1.close();
      port2.close();
    },
  };
  return { fake: fake as unknown as Worker, state, errors };
}
