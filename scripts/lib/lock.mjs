import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { cacheFolder } from './paths.mjs';
import { say } from './say.mjs';

export const isAlive = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
};

/** Runs `work` while no other start or test of this clone does the same; a lock of a process that ended is taken over. */
export async function alone(name, work) {
  mkdirSync(cacheFolder, { recursive: true });
  const file = join(cacheFolder, `${name}.lock`);
  for (let told = false; ;) {
    try {
      writeFileSync(file, String(process.pid), { flag: 'wx' });
      break;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
      const holder = Number(readFileSync(file, 'utf8').trim() || 0);
      if (holder && !isAlive(holder)) rmSync(file, { force: true });
      else {
        if (!told) say(`Waiting: another run is at "${name}" …`);
        told = true;
        await new Promise((go) => setTimeout(go, 500));
      }
    }
  }
  try {
    return await work();
  } finally {
    rmSync(file, { force: true });
  }
}
