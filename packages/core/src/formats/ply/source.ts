import { badFile } from '../../errors';
import { TextScanner } from '../TextScanner';
import { SIZES, type Header, type Scalar } from './header';

/** A stream of values, text or binary, read one by one; each is finite or an integer. */
export interface Source {
  scalar(type: Scalar): number;
  place(): { line: number } | { byte: number };
}

/** Values out of bytes, and where they are. */
export interface BinarySource extends Source {
  view: DataView;
  little: boolean;
  /** byte the next value begins at */
  at: number;
}

export function sourceOf(bytes: Uint8Array, header: Header): Source | BinarySource {
  return header.format === 'ascii' ? textSource(bytes, header) : binarySource(bytes, header);
}
export const isBinary = (source: Source): source is BinarySource => 'view' in source;

function textSource(bytes: Uint8Array, header: Header): Source {
  const s = new TextScanner(bytes);
  s.at = header.dataAt;
  s.line = header.line;
  return {
    scalar() {
      s.nextWord();
      return s.number('a number');
    },
    place: () => ({ line: s.line }),
  };
}

function binarySource(bytes: Uint8Array, header: Header): BinarySource {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = header.format === 'little';
  const read: Record<Scalar, (at: number) => number> = {
    i8: (at) => view.getInt8(at), u8: (at) => view.getUint8(at), i16: (at) => view.getInt16(at, little), u16: (at) => view.getUint16(at, little),
    i32: (at) => view.getInt32(at, little), u32: (at) => view.getUint32(at, little), f32: (at) => view.getFloat32(at, little), f64: (at) => view.getFloat64(at, little),
  }; // prettier-ignore
  return {
    view,
    little,
    at: header.dataAt,
    scalar(type) {
      const { at } = this;
      if (at + SIZES[type] > view.byteLength) throw endsEarly(view);
      this.at += SIZES[type];
      return read[type](at);
    },
    place() {
      return { byte: this.at };
    },
  };
}

export const endsEarly = (view: DataView): Error => badFile('The file ends too early', { byte: view.byteLength });
