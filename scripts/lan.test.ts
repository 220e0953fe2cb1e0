import { mkdtempSync, statSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, it } from 'vitest';
import { newAccessCode, openToNetwork } from './lan.mjs';

it('an access code has 26 letters of 32, which is 130 bits, and is never the same', () => {
  const codes = new Set(Array.from({ length: 200 }, newAccessCode));
  expect(codes.size).toBe(200);
  const letters = new Set<string>();
  for (const code of codes) {
    expect(code.replaceAll('-', '')).toMatch(/^[a-km-np-z2-9]{26}$/);
    for (const letter of code.replaceAll('-', '')) letters.add(letter);
  }
  expect(letters.size).toBe(32);
});

it('the code stays in the data folder, for its owner alone', () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'hl-lan-'));
  const first = openToNetwork(folder);
  expect(openToNetwork(folder).code).toBe(first.code);
  expect(statSync(first.file).mode & 0o777).toBe(0o600);
  expect(first.env).toMatchObject({ HOST: '0.0.0.0', HALF_LOOP_ACCESS_CODE: first.code });
});
