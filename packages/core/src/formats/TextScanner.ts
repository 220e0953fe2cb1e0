import { badFile } from '../errors';
import { decimal, MOST_SHIFT } from './decimal';

const NEWLINE = 10,
  RETURN = 13,
  SPACE = 32,
  TAB = 9,
  MINUS = 45,
  PLUS = 43,
  DOT = 46,
  ZERO = 48,
  LOWER_E = 101,
  COMMENT = 35;

/**
 * Reads words and numbers out of UTF-8 bytes without making strings. Numbers are correctly rounded: up to 18 digits with
 * small exponents by `decimal`, anything else by the engine's own parser.
 */
export class TextScanner {
  at = 0;
  line = 1;
  constructor(readonly bytes: Uint8Array) {}

  get done(): boolean {
    return this.at >= this.bytes.length;
  }
  /** Past spaces and tabs, and past a backslash at the end of a line. */
  blanks(): void {
    const { bytes } = this;
    for (;;) {
      const c = bytes[this.at];
      if (c === SPACE || c === TAB || c === RETURN) this.at++;
      else if (c === 92 && (bytes[this.at + 1] === NEWLINE || bytes[this.at + 1] === RETURN)) {
        this.at += bytes[this.at + 1] === RETURN && bytes[this.at + 2] === NEWLINE ? 3 : 2;
        this.line++;
      } else return;
    }
  }
  /** Whether the line has no more words; a comment ends it too. */
  lineEnds(): boolean {
    this.blanks();
    const c = this.bytes[this.at];
    return c === undefined || c === NEWLINE || c === COMMENT;
  }
  /** To the start of the next line, past lines that a backslash continues. */
  nextLine(): void {
    const { bytes } = this;
    if (bytes[this.at] === NEWLINE) {
      this.at++;
      this.line++;
      return;
    }
    for (;;) {
      const i = bytes.indexOf(NEWLINE, this.at);
      this.at = i < 0 ? bytes.length : i + 1;
      this.line++;
      const last = bytes[i - 1] === RETURN ? i - 2 : i - 1;
      if (i < 0 || bytes[last] !== 92) return;
    }
  }
  /** Past blanks, empty lines and comments. False at the end of the file. */
  nextWord(): boolean {
    if (this.bytes[this.at] > COMMENT) return true;
    while (!this.done) {
      if (!this.lineEnds()) return true;
      this.nextLine();
    }
    return false;
  }
  /** Up to the next blank or line end; control characters belong to it, so that every call moves on. */
  word(): string {
    this.blanks();
    const start = this.at;
    for (; this.at < this.bytes.length; this.at++) {
      const c = this.bytes[this.at];
      if (c === SPACE || c === TAB || c === NEWLINE || c === RETURN) break;
    }
    return textOf(this.bytes, start, this.at);
  }
  /** The rest of the line, trimmed, the scanner left at its end. */
  rest(): string {
    const i = this.bytes.indexOf(NEWLINE, this.at);
    const end = i < 0 ? this.bytes.length : i;
    const text = textOf(this.bytes, this.at, end).trim();
    this.at = end;
    return text;
  }
  /** A finite number, correctly rounded; throws BAD_FILE with the line and `what` was expected. */
  number(what: string): number {
    const { bytes } = this;
    let at = this.at;
    while (bytes[at] === SPACE || bytes[at] === TAB) at++;
    const start = at;
    const sign = bytes[at] === MINUS ? -1 : 1;
    if (bytes[at] === MINUS || bytes[at] === PLUS) at++;
    const first = at;
    // the first nine digits that count and the next nine, as small integers, which are the fastest
    let head = 0,
      tail = 0,
      count = 0,
      point = -1;
    for (;;) {
      const c = bytes[at] - ZERO;
      if (c >= 0 && c <= 9) {
        if (count < 9) head = (head * 10 + c) | 0;
        else tail = (tail * 10 + c) | 0;
        if (head !== 0) count++;
      } else if (c === DOT - ZERO && point < 0) point = at;
      else break;
      at++;
    }
    const digits = at - first - (point < 0 ? 0 : 1);
    let exponent = point < 0 ? 0 : point + 1 - at;
    if (digits > 0 && (bytes[at] | 32) === LOWER_E) {
      const sign10 = bytes[at + 1] === MINUS ? -1 : 1;
      let e = at + (bytes[at + 1] === MINUS || bytes[at + 1] === PLUS ? 2 : 1);
      const firstOfPower = e;
      let power = 0;
      for (let c = bytes[e] - ZERO; c >= 0 && c <= 9; c = bytes[++e] - ZERO) power = power * 10 + c;
      if (e > firstOfPower) {
        exponent += sign10 * power;
        at = e;
      }
    }
    if (digits > 0 && !(bytes[at] > SPACE) && count <= 18 && exponent >= -MOST_SHIFT && exponent <= MOST_SHIFT) {
      const value = decimal(head, tail, count > 9 ? count - 9 : 0, exponent);
      if (value === value) {
        this.at = at;
        return sign * value;
      }
    }
    return this.slowNumber(start, what);
  }
  private slowNumber(start: number, what: string): number {
    this.at = start;
    this.blanks();
    const text = this.word();
    const value = text === '' ? NaN : Number(text);
    if (!Number.isFinite(value))
      throw badFile(`Expected ${what}, found ${text === '' ? 'the end of the line' : `“${text.slice(0, 40)}”`}`, this);
    return value;
  }
  /** A whole number in place, stopping at anything else; throws BAD_FILE when there is none. */
  integer(what: string): number {
    const { bytes } = this;
    let at = this.at,
      value = 0,
      digits = 0;
    const sign = bytes[at] === MINUS ? -1 : 1;
    if (bytes[at] === MINUS || bytes[at] === PLUS) at++;
    for (let c = bytes[at] - ZERO; c >= 0 && c <= 9; c = bytes[++at] - ZERO) {
      value = value * 10 + c;
      digits++;
    }
    if (digits === 0 || digits > 15) throw badFile(`Expected ${what}, found “${this.word().slice(0, 40)}”`, this);
    this.at = at;
    return sign * value;
  }
}

const decoder = new TextDecoder();
export function textOf(bytes: Uint8Array, from: number, to: number): string {
  return decoder.decode(bytes.subarray(from, to));
}
