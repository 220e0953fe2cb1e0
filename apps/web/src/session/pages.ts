/**
 * Which page this is, and which others are alive. A page keeps its id over a reload; a copied tab gets a new one. Works
 * without secure-context features.
 */
const KEY = 'half-loop-page';
const WAIT_MS = 120;

const randomId = (): string => Array.from(crypto.getRandomValues(new Uint32Array(3)), (n) => n.toString(36)).join('');
let pageId = sessionStorage.getItem(KEY) ?? randomId();
sessionStorage.setItem(KEY, pageId);
const instance = randomId();
const channel = new BroadcastChannel('half-loop-pages');
const answers = new Set<string>();

channel.onmessage = ({ data }: MessageEvent<{ ask?: string; alive?: string; from: string }>) => {
  if (data.from === instance) return;
  if (data.ask) channel.postMessage({ alive: pageId, from: instance });
  if (data.alive) answers.add(data.alive);
};

/** Ids of other pages that answer now; and a new id for this one when another has the same. */
export async function otherPages(): Promise<ReadonlySet<string>> {
  answers.clear();
  channel.postMessage({ ask: 'who', from: instance });
  await new Promise((resolve) => setTimeout(resolve, WAIT_MS));
  if (answers.has(pageId)) takePage(randomId());
  return new Set(answers);
}

export const thisPage = (): string => pageId;

/** Goes on as a page that is gone. */
export function takePage(id: string): void {
  pageId = id;
  sessionStorage.setItem(KEY, id);
}
