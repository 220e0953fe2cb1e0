declare module 'gltf-validator' {
  /** Severity 0: error, 1: warning, 2: information, 3: hint. */
  export function validateBytes(
    bytes: Uint8Array,
  ): Promise<{ issues: { messages: { code: string; message: string; severity: number }[] } }>;
}
