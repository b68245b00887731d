import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { type Readable } from 'node:stream';

/** What is kept: its key is the SHA-256 of its bytes, so that the same bytes are kept once. */
export interface Kept {
  readonly key: string;
  readonly bytes: number;
}

const DRAFT = '.draft-';

/** So many bytes may wait for the disk while more are made. */
const WRITTEN_BEHIND = 1024 * 1024;

/** Bytes by content: pictures, uploaded files, feed files. Whole or not at all: a file appears under its key when complete. */
export class FileStore {
  constructor(private readonly folder: string) {}

  /** Keeps what a source gives. Whatever the source throws is thrown on, and nothing is kept. */
  async put(source: AsyncIterable<Uint8Array | string> | Iterable<Uint8Array>): Promise<Kept> {
    await mkdir(this.folder, { recursive: true });
    const draft = join(this.folder, `${DRAFT}${randomUUID()}`);
    const hash = createHash('sha256');
    let bytes = 0;
    const file = createWriteStream(draft, { highWaterMark: WRITTEN_BEHIND });
    const failed = new Promise<never>((_, reject) => file.once('error', reject));
    failed.catch(() => undefined);
    try {
      for await (const piece of source) {
        const data = typeof piece === 'string' ? Buffer.from(piece) : piece;
        hash.update(data);
        bytes += data.length;
        if (!file.write(data))
          await Promise.race([new Promise<void>((drained) => file.once('drain', () => drained())), failed]);
      }
      await Promise.race([new Promise<void>((closed) => file.end(() => closed())), failed]);
      const key = hash.digest('hex');
      // The same bytes are there already: putting them there again would wait for the disk.
      if ((await this.stat(key)) === undefined) await rename(draft, this.place(key));
      else await rm(draft);
      return { key, bytes };
    } catch (error) {
      file.destroy();
      await rm(draft, { force: true });
      throw error;
    }
  }

  get(key: string): Readable {
    return createReadStream(this.place(key));
  }

  /** Size in bytes; undefined for what is not kept. */
  async stat(key: string): Promise<number | undefined> {
    if (!/^[0-9a-f]{64}$/.test(key)) return undefined;
    return stat(this.place(key)).then(
      ({ size }) => size,
      () => undefined,
    );
  }

  /** Forgets what is kept under a key; what is not kept is no error. */
  async remove(key: string): Promise<void> {
    if (/^[0-9a-f]{64}$/.test(key)) await rm(this.place(key), { force: true });
  }

  /** Removes unfinished drafts that were begun before a moment: their server ended. */
  async removeDrafts(before: number): Promise<void> {
    const names = await readdir(this.folder).catch(() => []);
    for (const name of names.filter((entry) => entry.startsWith(DRAFT))) {
      const path = join(this.folder, name);
      const { mtimeMs } = await stat(path);
      if (mtimeMs < before) await rm(path, { force: true });
    }
  }

  private place(key: string): string {
    return join(this.folder, key);
  }
}
