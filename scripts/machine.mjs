/** What the machine must have, and how it gets it: Debian packages through apt, npm packages through npm. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';

export const root = new URL('..', import.meta.url).pathname;

/** An end with one sentence for the person, no stack. */
export class Trouble extends Error {}

export const say = (words) => process.stderr.write(`${words}\n`);

/** The path of a program, also looked for where Debian keeps servers; a whole path stands for itself. */
export function findProgram(name) {
  const folders = [...(process.env.PATH ?? '').split(delimiter), '/usr/sbin', '/sbin', '/usr/local/sbin'];
  if (name.startsWith('/')) return existsSync(name) ? name : undefined;
  return folders.map((folder) => join(folder, name)).find((path) => existsSync(path));
}

const run = (command, words, options = {}) =>
  spawnSync(command, words, { cwd: root, encoding: 'utf8', ...options });

/** Installs the Debian packages whose program is missing. */
export function ensureDebian(wanted) {
  const missing = Object.entries(wanted).filter(([program]) => !findProgram(program));
  if (missing.length === 0) return;
  const packages = [...new Set(missing.map(([, name]) => name))];
  const apt = findProgram('apt-get');
  const names = packages.join(' and ');
  if (!apt)
    throw new Trouble(
      `${names} must be installed, and this machine has no apt-get to do it: install it with the machine's own package manager and start again.`,
    );
  const asRoot = process.getuid?.() === 0;
  const sudo = asRoot ? undefined : findProgram('sudo');
  if (!asRoot && !sudo)
    throw new Trouble(
      `${names} must be installed, and there is no sudo: run "apt-get install ${packages.join(' ')}" as root and start again.`,
    );
  say(`Installing ${names} …`);
  const call = (...words) => {
    const all = asRoot ? [apt, ...words] : [sudo, apt, ...words];
    return run(all[0], all.slice(1), {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      stdio: ['inherit', 'ignore', 'pipe'],
    });
  };
  call('update', '-qq');
  const done = call('install', '-y', '-qq', '--no-install-recommends', ...packages);
  if (done.status !== 0)
    throw new Trouble(`apt-get could not install ${names}: ${(done.stderr ?? '').trim().split('\n').at(-1)}`);
}

/** Installs the npm packages where the lock file has changed since the last time. */
export function ensurePackages() {
  const major = Number(process.versions.node.split('.')[0]);
  if (major < 20) throw new Trouble(`Node 20 or later is needed; this is ${process.version}.`);
  const digest = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const mark = join(root, 'node_modules', '.installed');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === digest) return;
  say('Installing npm packages …');
  // Not `npm ci`: it refuses a lock file made where binaries for other systems could not be looked up. Versions are the lock's all the same.
  const done = run('npm', ['install', '--no-save', '--no-fund', '--no-audit', '--loglevel=error'], {
    stdio: ['ignore', 'ignore', 'pipe'],
    env: { ...process.env, NODE_ENV: '' },
  });
  if (done.status !== 0)
    throw new Trouble(
      `npm could not install the packages: ${(done.stderr ?? '').trim().split('\n').slice(-3).join(' ')}`,
    );
  writeFileSync(mark, digest);
}

/** Runs a script's main part and turns trouble into one sentence. */
export async function main(work) {
  try {
    await work();
  } catch (error) {
    say(error instanceof Trouble ? error.message : String(error?.stack ?? error));
    process.exitCode = 1;
  }
}
