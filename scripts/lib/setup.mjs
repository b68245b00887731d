import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { alone } from './lock.mjs';
import { builtServer, builtWeb, cacheFolder, root } from './paths.mjs';
import { run } from './run.mjs';
import { say } from './say.mjs';

const POSTGRES = '/usr/lib/postgresql/15/bin/postgres';
const SPREADSHEET = '/usr/bin/soffice';
const CHROMIUM = '/usr/bin/chromium';

/** Installs Debian packages that are missing, saying which. */
export async function ensureDebian({ browser = false, spreadsheet = false } = {}) {
  const missing = [];
  if (!process.env.DATABASE_URL && !existsSync(POSTGRES)) missing.push('postgresql-15');
  if (browser && !existsSync(CHROMIUM)) missing.push('chromium');
  if (spreadsheet && !existsSync(SPREADSHEET)) missing.push('libreoffice-calc-nogui');
  if (missing.length === 0) return;
  await alone('debian', async () => {
    say(`Installing Debian packages: ${missing.join(', ')}`);
    const sudo = process.getuid() === 0 ? [] : ['sudo'];
    const apt = async (...args) => {
      const [command, ...rest] = [...sudo, 'apt-get', ...args];
      await run(command, rest, {
        env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
        stdio: ['ignore', 'ignore', 'inherit'],
      });
    };
    await apt('update');
    await apt('install', '-y', '--no-install-recommends', ...missing);
  });
}

const stampOf = (text) => createHash('sha256').update(text).digest('hex');
const readStamp = (name) => {
  try {
    return readFileSync(join(cacheFolder, name), 'utf8');
  } catch {
    return '';
  }
};
const writeStamp = (name, stamp) => {
  mkdirSync(cacheFolder, { recursive: true });
  writeFileSync(join(cacheFolder, name), stamp);
};

/** Installs what the lock file names, once for each state of the lock file. */
export async function ensurePackages() {
  await alone('packages', async () => {
    const stamp = stampOf(readFileSync(join(root, 'package-lock.json')));
    if (existsSync(join(root, 'node_modules', '.package-lock.json')) && readStamp('packages.stamp') === stamp) return;
    say('Installing npm packages (npm ci) …');
    await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
    writeStamp('packages.stamp', stamp);
  });
}

/** What the build depends on: name, size and time of every source file. */
function sourceStamp(folders) {
  const seen = [];
  const walk = (folder) => {
    for (const entry of readdirSync(join(root, folder), { withFileTypes: true })) {
      const path = join(folder, entry.name);
      if (
        entry.name === 'node_modules' ||
        entry.name === 'dist' ||
        entry.name === 'testing' ||
        entry.name.endsWith('.spec.ts')
      )
        continue;
      if (entry.isDirectory()) walk(path);
      else {
        const { size, mtimeMs } = statSync(join(root, path));
        seen.push(`${path} ${size} ${mtimeMs}`);
      }
    }
  };
  folders.forEach(walk);
  return stampOf(seen.sort().join('\n') + readFileSync(join(root, 'package-lock.json')));
}

/** Builds web and server when their sources changed since the last build. */
export async function ensureBuilt() {
  await alone('build', async () => {
    const serverStamp = sourceStamp(['core/src', 'contract/src', 'server/src', 'standins/src', 'demo/src', 'scripts']);
    if (readStamp('server.stamp') !== serverStamp || !existsSync(builtServer)) {
      say('Building the server …');
      await run(process.execPath, ['scripts/build-server.mjs']);
      writeStamp('server.stamp', serverStamp);
    }
    const webStamp = sourceStamp(['core/src', 'contract/src', 'web']);
    if (readStamp('web.stamp') !== webStamp || !existsSync(join(builtWeb, 'index.html'))) {
      say('Building the web application …');
      await run('npx', ['ng', 'build', '--configuration', 'production'], {
        cwd: join(root, 'web'),
        env: { ...process.env, NG_CLI_ANALYTICS: 'false' },
      });
      writeStamp('web.stamp', webStamp);
    }
  });
}
