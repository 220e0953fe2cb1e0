import type { FaceGroups } from '../mesh';
import { GrowU32 } from './grow';

/** Groups as a file opens and closes them: faces fall into the one that is open; a name met again goes on. */
export class GroupList {
  private readonly numbers = new Map<string, number>();
  private readonly ofFace = new GrowU32();
  private now = -1;
  /** whether the file opened any */
  get used(): boolean {
    return this.numbers.size > 0 && this.now >= 0;
  }
  open(name: string): void {
    this.now = this.numberOf(name.trim() || 'unnamed');
  }
  addFace(): void {
    this.ofFace.push(this.now + 1);
  }
  private numberOf(name: string): number {
    const known = this.numbers.get(name);
    if (known !== undefined) return known;
    this.numbers.set(name, this.numbers.size);
    return this.numbers.size - 1;
  }
  /** Faces before the first group are in one called 'ungrouped', which is there only when it has faces. */
  done(): FaceGroups {
    const names = [...this.numbers.keys()];
    const raw = this.ofFace.done();
    if (raw.includes(0)) return { names: ['ungrouped', ...names], ofFace: raw };
    return { names, ofFace: raw.map((n) => n - 1) };
  }
}
