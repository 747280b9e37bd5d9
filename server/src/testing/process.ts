import { type ChildProcess, spawn } from 'node:child_process';

/** A bundled server as a process of its own, over a database file. */
export class ServerProcess {
  url = '';
  private child: ChildProcess | null = null;

  constructor(
    readonly main: string,
    readonly database: string,
    private readonly env: Record<string, string> = {},
  ) {}

  /** Starts it, on the same port as before when there was one. */
  async start(): Promise<void> {
    const port = this.url === '' ? '0' : new URL(this.url).port;
    const child = spawn('node', [this.main], {
      env: { ...process.env, PORT: port, HURREL_DB: this.database, ...this.env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.child = child;
    let said = '';
    this.url = await new Promise<string>((ready, failed) => {
      child.stdout.on('data', (data: Buffer) => {
        said += data.toString();
        const found = /ready on (http:\S+)/.exec(said)?.[1];
        if (found) ready(found);
      });
      child.stderr.on('data', (data: Buffer) => (said += data.toString()));
      child.on('exit', () => failed(new Error(`The server ended: ${said}`)));
    });
  }

  /** Ends it and waits until it is gone; gives its exit code. */
  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<number | null> {
    const child = this.child;
    if (!child || child.exitCode !== null) return child?.exitCode ?? null;
    const gone = new Promise<number | null>((done) => child.once('exit', (code) => done(code)));
    child.kill(signal);
    return gone;
  }
}
