import { describe, expect, it } from 'vitest';
import { HalfLoopError } from '../errors';
import { seededRng, type Rng } from '../math';
import { ballSoup } from '../testing';
import { readMesh, writeMesh, type WriteFormat } from '.';

const FORMATS: WriteFormat[] = ['obj', 'ply', 'off', 'stl', 'glb'];

/** Damages a file as disks, networks and editors do: cut, bytes changed, a stretch doubled, dropped or zeroed. */
function damage(bytes: Uint8Array, rng: Rng): Uint8Array {
  const at = (): number => Math.floor(rng() * bytes.length);
  const out = bytes.slice();
  switch (Math.floor(rng() * 6)) {
    case 0:
      return out.slice(0, at());
    case 1:
      for (let i = 0; i < 1 + rng() * 8; i++) out[at()] = Math.floor(rng() * 256);
      return out;
    case 2: {
      const [a, b] = [at(), at()].sort((x, y) => x - y);
      return Uint8Array.from([...out.subarray(0, b), ...out.subarray(a)]);
    }
    case 3: {
      const [a, b] = [at(), at()].sort((x, y) => x - y);
      return Uint8Array.from([...out.subarray(0, a), ...out.subarray(b)]);
    }
    case 4:
      return out.fill(0, at(), at());
    default: {
      // header numbers blown up, the classic way to make a reader take all the memory there is
      const text = new TextDecoder('latin1').decode(out).replace(/\d+/g, (n) => (rng() < 0.1 ? `${n}999999` : n));
      return Uint8Array.from(text, (c) => c.charCodeAt(0));
    }
  }
}

describe('damaged files', () => {
  it.each(FORMATS)('%s: each gives a sound mesh or one clear sentence', async (format) => {
    const { bytes } = await writeMesh(ballSoup(5), format, { name: 'ball' });
    const rng = seededRng(format.length * 1000 + format.charCodeAt(0));
    let [sound, refused] = [0, 0];
    for (let i = 0; i < 250; i++) {
      const file = damage(bytes, rng);
      try {
        const { soup } = await readMesh(file, `a.${format}`);
        sound++;
        const vertices = soup.positions.length / 3;
        expect(soup.faceStarts.at(-1)).toBe(soup.corners.length);
        expect(soup.corners.every((v) => v < vertices)).toBe(true);
        expect(soup.positions.every(Number.isFinite)).toBe(true);
        for (let f = 1; f < soup.faceStarts.length; f++)
          expect(soup.faceStarts[f] - soup.faceStarts[f - 1]).toBeGreaterThanOrEqual(3);
      } catch (error) {
        refused++;
        expect(error).toBeInstanceOf(HalfLoopError);
        expect((error as HalfLoopError).code).toBe('BAD_FILE');
        expect((error as HalfLoopError).message.length).toBeLessThan(320);
      }
    }
    expect(refused).toBeGreaterThan(40);
    expect(sound + refused).toBe(250);
  });

  it('nonsense under any ending is refused', async () => {
    const rng = seededRng(77);
    for (const ending of [...FORMATS, 'gltf'])
      for (let i = 0; i < 40; i++) {
        const bytes = Uint8Array.from({ length: 1 + Math.floor(rng() * 400) }, () => Math.floor(rng() * 256));
        await expect(readMesh(bytes, `a.${ending}`)).rejects.toMatchObject({ code: 'BAD_FILE' });
      }
  });
});
