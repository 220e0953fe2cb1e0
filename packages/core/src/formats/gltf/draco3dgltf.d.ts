declare module 'draco3dgltf/draco_decoder_gltf_nodejs.js' {
  export default function createDecoderModule(options: { wasmBinary: ArrayBuffer }): Promise<unknown>;
}
declare module 'draco3dgltf/draco_encoder_gltf_nodejs.js' {
  export default function createEncoderModule(options?: object): Promise<unknown>;
}
