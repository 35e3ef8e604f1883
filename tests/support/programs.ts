/** Programs of the application, run beside a test against its database. */
import { type ChildProcess, spawn } from 'node:child_process';

export interface RunningProgram {
  readonly child: ChildProcess;
  /** Ends it and waits until it is gone. */
  end(signal?: NodeJS.Signals): Promise<void>;
}

/** Starts a built program and waits until it says it is ready. */
export async function startProgram(path: string, env: Record<string, string> = {}): Promise<RunningProgram> {
  const child = spawn(process.execPath, [path], {
    env: { ...process.env, LIVELY_LEASE_SECONDS: '2', ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  await new Promise((resolve) => child.once('message', resolve));
  return {
    child,
    end: async (signal = 'SIGTERM') => {
      if (child.exitCode !== null || child.signalCode !== null) return;
      const gone = new Promise((resolve) => child.once('exit', resolve));
      child.kill(signal);
      await gone;
    },
  };
}

export const startWorker = (env: Record<string, string> = {}): Promise<RunningProgram> =>
  startProgram('dist/worker.js', env);
