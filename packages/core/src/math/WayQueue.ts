/** Vertices by how far the way to them is, the nearest first: a binary heap. Cost of each call: the logarithm. */
export class WayQueue {
  private readonly heap: { v: number; way: number }[] = [];

  push(v: number, way: number): void {
    const { heap } = this;
    heap.push({ v, way });
    for (let i = heap.length - 1; i > 0;) {
      const up = (i - 1) >> 1;
      if (heap[up].way <= heap[i].way) break;
      [heap[up], heap[i]] = [heap[i], heap[up]];
      i = up;
    }
  }
  pop(): { v: number; way: number } | undefined {
    const { heap } = this;
    const top = heap[0];
    const last = heap.pop();
    if (heap.length === 0 || !last) return top;
    heap[0] = last;
    for (let i = 0; ;) {
      const [l, r] = [2 * i + 1, 2 * i + 2];
      let least = i;
      if (l < heap.length && heap[l].way < heap[least].way) least = l;
      if (r < heap.length && heap[r].way < heap[least].way) least = r;
      if (least === i) return top;
      [heap[least], heap[i]] = [heap[i], heap[least]];
      i = least;
    }
  }
}
