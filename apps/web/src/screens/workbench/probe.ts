import { meanPoint, mirrored } from '@half-loop/core/math';
import type { SceneView } from '../../viewport';

/** Where elements are seen, pixels of the window. Read-only: for tests that drive the page by pointer and keys. */
export interface Probe {
  vertices: { id: number; x: number; y: number }[];
  /** middles of border edges, and of their mirror images */
  openEdges: { id: number; x: number; y: number; mirrored: boolean }[];
  /** middles of edges with faces on both sides */
  innerEdges: { id: number; x: number; y: number }[];
  faceMiddles: { id: number; x: number; y: number }[];
  faces: number;
  /** what lies under the pixel of the window that was asked for */
  under: 'sculpt' | 'low-poly' | 'nothing' | null;
}

declare global {
  interface Window {
    halfLoopProbe?: (at?: { x: number; y: number }) => Probe;
  }
}

export function offerProbe(scene: SceneView): () => void {
  window.halfLoopProbe = (at) => {
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
    const under = (x: number, y: number): Probe['under'] => {
      const { view, direction } = scene.picker.ray(x, y);
      if (scene.session.surface?.raycast(view.eye, direction)) return 'sculpt';
      return scene.picker.grid.raycast(view.eye, direction) ? 'low-poly' : 'nothing';
    };
    const border = [...mesh.edges()].filter((e) => mesh.isBorderEdge(e));
    return {
      vertices: [...mesh.vertices()].map((id) => ({ id, ...pixel(mesh.point(id)) })),
      openEdges: [
        ...border.map((id) => ({ id, mirrored: false, ...pixel(middle(id)) })),
        ...(plane ? border.map((id) => ({ id, mirrored: true, ...pixel(mirrored(middle(id), plane)) })) : []),
      ],
      innerEdges: [...mesh.edges()]
        .filter((e) => !mesh.isBorderEdge(e) && !mesh.isLooseEdge(e))
        .map((id) => ({ id, ...pixel(middle(id)) })),
      faceMiddles: [...mesh.faces()].map((id) => ({
        id,
        ...pixel(meanPoint(mesh.faceVertices(id).map((v) => mesh.point(v)))),
      })),
      faces: mesh.faceCount,
      under: at ? under(at.x - box.left, at.y - box.top) : null,
    };
  };
  return () => {
    delete window.halfLoopProbe;
  };
}
