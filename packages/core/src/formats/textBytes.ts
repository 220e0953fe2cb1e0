const CHUNK = 1 << 24;

/**
 * Text as UTF-8 bytes, whatever it came in: a UTF-8 mark is passed over, UTF-16 of either byte order (by its mark, or by zero bytes
 * where a plain letter has them) is written anew, a stretch at a time since strings end near 512 MB. Linear.
 */
export function utf8Bytes(bytes: Uint8Array): Uint8Array {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return bytes.subarray(3);
  const label = utf16Label(bytes);
  return label ? transcode(bytes, label) : bytes;
}

function utf16Label([a, b, c, d]: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  if (a === 0xff && b === 0xfe) return 'utf-16le';
  if (a === 0xfe && b === 0xff) return 'utf-16be';
  if (a > 0 && b === 0 && c > 0 && d === 0) return 'utf-16le';
  return a === 0 && b > 0 && c === 0 && d > 0 ? 'utf-16be' : null;
}

function transcode(bytes: Uint8Array, label: string): Uint8Array {
  const decoder = new TextDecoder(label);
  const encoder = new TextEncoder();
  const parts: Uint8Array[] = [];
  let length = 0;
  for (let at = 0; at < bytes.length; at += CHUNK) {
    const part = encoder.encode(decoder.decode(bytes.subarray(at, at + CHUNK), { stream: true }));
    parts.push(part);
    length += part.length;
  }
  const out = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
