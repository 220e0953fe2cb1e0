import { mirrored } from '@half-loop/core/math';
import type { SceneView } from '../../viewport';

/** Where elements are seen, pixels of the window. Read-only: for tests that drive the page by pointer and keys. */
export interface Probe {
  vertices: { id: number; x: number; y: number }[];
  /** middles of border edges, and of their mirror images */
  openEdges: { id: number; x: number; y: number; mirrored: boolean }[];
  faces: number;
}

declare global {
  interface Window {
    halfLoopProbe?: () => Probe;
  }
}

export function offerProbe(scene: SceneView): () => void {
  window.halfLoopProbe = () => {
    const { mesh, plane } = scene.session;
    const box = document.querySelector('[data-view=model]')?.getBoundingClientRect() ?? { left: 0, top: 0 };
    const pixel = (p: readonly [number, number, number]): { x: number; y: number } => {
      const { x, y } = scene.picker.pixelOf(p);
      return { x: x + box.left, y: y + box.top };
    };
    const middle = (e: number): [number, number, number] => {
      const [a, b] = [mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e))];
      return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2, (a[2] + b[2]) / 2];
    };
    const border = [...mesh.edges()].filter((e) => mesh.isBorderEdge(e));
    return {
      vertices: [...mesh.vertices()].map((id) => ({ id, ...pixel(mesh.point(id)) })),
      openEdges: [
        ...border.map((id) => ({ id, mirrored: false, ...pixel(middle(id)) })),
        ...(plane ? border.map((id) => ({ id, mirrored: true, ...pixel(mirrored(middle(id), plane)) })) : []),
      ],
      faces: mesh.faceCount,
    };
  };
  return () => {
    delete window.halfLoopProbe;
  };
}
