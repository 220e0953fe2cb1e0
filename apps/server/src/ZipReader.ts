import type { Readable } from 'node:stream';
import { open as openZip, type Entry, type ZipFile } from 'yauzl';
import { HalfLoopError } from '@half-loop/core/errors';

const MOST_ENTRIES = 100_000;
/** a part may unpack to this many bytes whatever it takes packed, and beyond to this many times its packed size */
const BOMB = { free: 64 * 1024 ** 2, times: 200 };

/** A ZIP on disk that is not trusted: names and sizes are checked before anything is unpacked. */
export class ZipReader {
  private constructor(
    private readonly zip: ZipFile,
    private readonly entries: ReadonlyMap<string, Entry>,
  ) {}

  /** Throws BAD_FILE when it is no ZIP, or one that names files outside itself. */
  static open(file: string): Promise<ZipReader> {
    return new Promise((resolve, reject) => {
      const refuse = (error: unknown): void => reject(notAnArchive(error));
      openZip(file, { lazyEntries: true, autoClose: false, strictFileNames: true }, (error, zip) => {
        if (error) return refuse(error);
        const entries = new Map<string, Entry>();
        const give = (problem: unknown): void => {
          zip.close();
          refuse(problem);
        };
        zip.on('error', give);
        zip.on('entry', (entry: Entry) => {
          if (entries.size >= MOST_ENTRIES) return give(new Error('it has too many parts'));
          entries.set(entry.fileName, entry);
          zip.readEntry();
        });
        zip.on('end', () => resolve(new ZipReader(zip, entries)));
        zip.readEntry();
      });
    });
  }

  /** A part as it unpacks. Throws BAD_FILE when it is not there or claims over `most` bytes. */
  stream(path: string, most: number): Promise<Readable> {
    const entry = this.entries.get(path);
    if (!entry)
      return Promise.reject(new HalfLoopError('BAD_FILE', `The archive has no “${path}”, which its index names.`));
    const { uncompressedSize: size, compressedSize } = entry;
    if (size > most || (size > BOMB.free && size > BOMB.times * compressedSize))
      return Promise.reject(
        new HalfLoopError('BAD_FILE', `“${path}” in the archive unpacks to ${size} bytes, more than can be taken.`),
      );
    return new Promise((resolve, reject) =>
      this.zip.openReadStream(entry, (error, stream) => (error ? reject(notAnArchive(error)) : resolve(stream))),
    );
  }

  async read(path: string, most: number): Promise<Buffer> {
    const parts: Buffer[] = [];
    try {
      for await (const part of await this.stream(path, most)) parts.push(part as Buffer);
    } catch (error) {
      throw error instanceof HalfLoopError ? error : notAnArchive(error);
    }
    return Buffer.concat(parts);
  }

  close(): void {
    this.zip.close();
  }
}

const notAnArchive = (error: unknown): HalfLoopError =>
  new HalfLoopError(
    'BAD_FILE',
    `This is not a project archive that can be read: ${error instanceof Error ? error.message : 'it is damaged'}.`,
  );
