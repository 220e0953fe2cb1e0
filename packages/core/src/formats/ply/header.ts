import { badFile } from '../../errors';
import { textOf, TextScanner } from '../TextScanner';

export type Scalar = 'i8' | 'u8' | 'i16' | 'u16' | 'i32' | 'u32' | 'f32' | 'f64';
const NAMES: Readonly<Record<string, Scalar>> = {
  char: 'i8', int8: 'i8', uchar: 'u8', uint8: 'u8', short: 'i16', int16: 'i16', ushort: 'u16', uint16: 'u16',
  int: 'i32', int32: 'i32', uint: 'u32', uint32: 'u32', float: 'f32', float32: 'f32', double: 'f64', float64: 'f64',
}; // prettier-ignore
/** bytes */
export const SIZES: Readonly<Record<Scalar, number>> = { i8: 1, u8: 1, i16: 2, u16: 2, i32: 4, u32: 4, f32: 4, f64: 8 };

export interface Property {
  name: string;
  type: Scalar;
  /** type of the count, for lists */
  list?: Scalar;
}
export interface Element {
  name: string;
  count: number;
  properties: Property[];
}
export interface Header {
  format: 'ascii' | 'little' | 'big';
  elements: Element[];
  /** byte the data begins at */
  dataAt: number;
  line: number;
}

const FORMATS: Readonly<Record<string, Header['format']>> = {
  ascii: 'ascii',
  binary_little_endian: 'little',
  binary_big_endian: 'big',
};

/** The header, its counts checked against the bytes behind it. Throws BAD_FILE with the line. */
export function readHeader(bytes: Uint8Array): Header {
  const s = new TextScanner(bytes);
  if (textOf(bytes, 0, 3) !== 'ply') throw badFile('A PLY file begins with ply', s);
  s.nextLine();
  let format: Header['format'] | null = null;
  const elements: Element[] = [];
  for (;;) {
    if (s.done) throw badFile('The header has no end_header', s);
    const words = s.rest().split(/\s+/);
    const line = s.line;
    s.nextLine();
    if (words[0] === 'end_header') break;
    if (words[0] === 'format') {
      format = Object.hasOwn(FORMATS, words[1]) ? FORMATS[words[1]] : null;
      if (!format) throw badFile(`Unknown PLY format “${(words[1] ?? '').slice(0, 40)}”`, { line });
    } else if (words[0] === 'element') elements.push(elementOf(words, elements, line));
    else if (words[0] === 'property') addProperty(elements, words, line);
    else if (!['comment', 'obj_info', ''].includes(words[0]))
      throw badFile(`Unknown header word “${words[0].slice(0, 40)}”`, { line });
  }
  if (!format) throw badFile('The header names no format', s);
  checkCounts(elements, format, bytes.length - s.at);
  return { format, elements, dataAt: s.at, line: s.line };
}

function elementOf(words: string[], before: Element[], line: number): Element {
  const count = Number(words[2] ?? NaN);
  if (words[1] === undefined) throw badFile('An element has no name', { line });
  if (!Number.isInteger(count) || count < 0)
    throw badFile(`Unreadable count of element ${words[1].slice(0, 40)}`, { line });
  if (before.some((e) => e.name === words[1])) throw badFile(`Element ${words[1].slice(0, 40)} comes twice`, { line });
  return { name: words[1], count, properties: [] };
}

function addProperty(elements: Element[], words: string[], line: number): void {
  const element = elements.at(-1);
  if (!element) throw badFile('A property stands before any element', { line });
  const isList = words[1] === 'list';
  const known = (word: string): Scalar | undefined => (Object.hasOwn(NAMES, word) ? NAMES[word] : undefined);
  const [type, list] = isList ? [known(words[3]), known(words[2])] : [known(words[1]), undefined];
  if (!type || (isList && (!list || list.startsWith('f'))))
    throw badFile(`Unknown property type in “${words.join(' ').slice(0, 60)}”`, { line });
  const name = words[isList ? 4 : 2];
  if (name === undefined) throw badFile('A property has no name', { line });
  element.properties.push({ name, type, ...(list ? { list } : {}) });
}

function checkCounts(elements: Element[], format: Header['format'], left: number): void {
  for (const { name, count, properties } of elements) {
    const least = properties.reduce((n, p) => n + (format === 'ascii' ? 2 : SIZES[p.list ?? p.type]), 0);
    if (count * Math.max(1, least) > left + 1)
      throw badFile(`The header says ${count} of element ${name.slice(0, 40)}, but only ${left} bytes follow`);
  }
}
