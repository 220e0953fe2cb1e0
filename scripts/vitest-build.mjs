// Vitest's global set-up: what tests run as built code is built once, before any of them begins.
import { buildCli, buildServer } from './build.mjs';

export default async function setup() {
  await buildCli();
  await buildServer();
}
