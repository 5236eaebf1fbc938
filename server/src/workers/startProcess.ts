import { fork, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';

const fromSource = import.meta.url.endsWith('.ts');

/** A process of our own that works for the server, and can end in every way without taking the server along. */
export interface WorkingProcess {
  send(message: object): void;
  /** Ends it at once, with all of its memory. */
  end(): Promise<void>;
  child: ChildProcess;
}

/**
 * Starts a process by the name of its file in this folder; messages travel as between threads, as copies.
 * @param megabytes most memory that its objects take; that of WebAssembly comes on top
 */
export function startProcess(
  name: string,
  megabytes: number,
  hear: (message: unknown) => void,
  ended: () => void,
): WorkingProcess {
  const file = fileURLToPath(new URL(`./${name}.${fromSource ? 'ts' : 'js'}`, import.meta.url));
  const child = fork(file, {
    serialization: 'advanced',
    execArgv: [`--max-old-space-size=${megabytes}`, ...(fromSource ? ['--import', 'tsx'] : [])],
  });
  child.on('message', hear);
  // By an error or by itself.
  child.on('error', ended);
  child.on('exit', ended);
  return {
    child,
    // What cannot be sent any more belongs to a process that has ended, which is told by itself.
    send: (message) => void child.send(message, () => undefined),
    async end() {
      if (child.exitCode !== null || child.signalCode !== null) return;
      child.kill('SIGKILL');
      await once(child, 'exit');
    },
  };
}
