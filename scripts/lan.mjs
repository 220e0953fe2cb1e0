// npm start -- --lan: what the server needs to let other machines in: an access code, and the names it answers to.
import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';

// no 0, 1, l or o: a code is read off one screen and typed at another
const LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789';

/** 130 random bits as 26 letters of 5 bits, in groups. */
export function newAccessCode() {
  const letters = Array.from(randomBytes(26), (b) => LETTERS[b % 32]).join('');
  return letters.match(/.{1,5}/g).join('-');
}

/** The code kept in the data folder, made when there is none, and the addresses of this machine. */
export function openToNetwork(data) {
  const file = path.join(data, 'access-code');
  if (!existsSync(file)) writeFileSync(file, newAccessCode(), { mode: 0o600 });
  const code = readFileSync(file, 'utf8').trim();
  const addresses = Object.values(os.networkInterfaces())
    .flat()
    .filter((a) => a && a.family === 'IPv4' && !a.internal)
    .map((a) => a.address);
  const names = [os.hostname(), `${os.hostname()}.local`].map((n) => n.toLowerCase());
  const env = { HOST: '0.0.0.0', HALF_LOOP_ACCESS_CODE: code, HALF_LOOP_HOSTS: [...addresses, ...names].join(',') };
  return { code, file, addresses, env };
}
