import { spawn } from 'node:child_process';
import { root } from './paths.mjs';

/** Runs a command to its end, its output shown as it comes; throws when it fails. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit', ...options });
    child.once('error', reject);
    child.once('exit', (code) =>
      code === 0 ? resolve() : reject(new Error(`${command} ${args.slice(0, 3).join(' ')} ended with ${code}`)),
    );
  });
}

/** Runs a command and gives back how it ended and what it printed, which is also shown: as it comes, or `together` at the end where others run beside it. */
export function runAndRead(command, args, { together = false, ...options } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'], ...options });
    let output = '';
    for (const stream of [child.stdout, child.stderr]) {
      stream.on('data', (bytes) => {
        output += bytes;
        if (!together) process.stdout.write(bytes);
      });
    }
    child.once('error', reject);
    child.once('close', (code) => {
      if (together) process.stdout.write(output);
      resolve({ code: code ?? 1, output });
    });
  });
}
