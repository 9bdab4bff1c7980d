import { type ChildProcess, spawn } from 'node:child_process';
import { type Caller, callerAt, type House } from './house.js';

/** A server as a process of its own, on the database of a house. */
export interface ServerProcess {
  url: string;
  signIn: (badge?: string) => Promise<Caller>;
  /** Ends it as a power cut does. */
  killNow: () => void;
  /** The same, and waits until it is gone. */
  kill: () => Promise<void>;
}

/** `dbPort`: where the database is reached, when not straight. */
export async function serveProcess(
  house: House,
  dbPort = Number(process.env.AUK_TEST_DB_PORT),
): Promise<ServerProcess> {
  const child = spawn(process.execPath, ['server/dist/whole/main.js'], {
    env: {
      ...process.env,
      AUK_DB_PORT: String(dbPort),
      AUK_DB_NAME: house.database,
      // Any that is free, told when it is taken: one that was looked for before may be another's by then.
      AUK_PORT: '0',
      AUK_STANDINS_PORT: String(house.standinsPort),
      AUK_DEMO: 'yes',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const port = await new Promise<string>((resolve, reject) => {
    let said = '';
    child.stdout!.on('data', d => {
      said += d;
      if (/^ready$/m.test(said)) resolve(/^listening on (\d+)$/m.exec(said)![1]!);
    });
    child.once('exit', code => reject(new Error(`the server ended with ${code}: ${said}`)));
  });
  const url = `http://127.0.0.1:${port}`;
  return {
    url,
    signIn: (badge = 'AB-1001') => callerAt(url, badge),
    killNow: () => child.kill('SIGKILL'),
    kill: () => gone(child),
  };
}

function gone(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise(resolve => {
    child.once('exit', () => resolve());
    child.kill('SIGKILL');
  });
}
