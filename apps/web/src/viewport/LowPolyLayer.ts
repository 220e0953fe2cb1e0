import { BufferGeometry, Group, Matrix4, Mesh, Vector3 } from 'three';
import { isMidlineEdge } from '@half-loop/core/inspect';
import { axisIndex, type MirrorPlane, type Vec3 } from '@half-loop/core/math';
import { NONE, triangulate, vertexNormal, type PolyMesh, type Touched } from '@half-loop/core/mesh';
import { faceMaterial, lineMaterial, type Srgb } from './materials';
import { LineSet } from './LineSet';
import { MODEL_COLOURS } from './modelColours';
import { SlotBuffer } from './SlotBuffer';

/** Two triangles a slot: a quad takes one, larger faces several. */
const TRIANGLES = 2;
const CORNERS = 3 * TRIANGLES;

export interface LowPolyColours {
  face(face: number): Srgb;
  ink: Srgb;
  border: Srgb;
  picked: Srgb;
  pointed: Srgb;
  /** an edge's own colour under the present lens; null: as edges are */
  edge(edge: number): Srgb | null;
  /** not shown with its region */
  isHidden?(faces: readonly number[]): boolean;
}
export interface Emphasis {
  picked: { vertices: ReadonlySet<number>; edges: ReadonlySet<number>; faces: ReadonlySet<number> };
  pointed: { edges: ReadonlySet<number>; face: number | null };
}

/** Nothing picked, nothing pointed at. */
export const NO_EMPHASIS: Emphasis = {
  picked: { vertices: new Set(), edges: new Set(), faces: new Set() },
  pointed: { edges: new Set(), face: null },
};

/**
 * The low-poly on the GPU: each face and edge keeps its slot while it lives, an edit writes the slots it touched, and all
 * is drawn in two calls (four with the mirrored half, which shares the buffers).
 */
export class LowPolyLayer {
  readonly own = new Group();
  readonly mirror = new Group();
  readonly faceMaterials = [faceMaterial(), faceMaterial()];
  readonly lineMaterials = [lineMaterial(true), lineMaterial(true)];
  readonly geometry = new BufferGeometry();
  private readonly faces = new SlotBuffer(
    this.geometry,
    [
      { name: 'position', type: 'f32', size: 3 },
      { name: 'normal', type: 'f32', size: 3 },
      { name: 'tint', type: 'u8', size: 4 },
    ],
    CORNERS,
    false,
  );
  private readonly lines = new LineSet();
  private readonly slotsOf = new Map<number, number[]>();
  private readonly free: number[] = [];
  private used = 0;

  constructor(
    private readonly colours: LowPolyColours,
    private readonly emphasis: () => Emphasis,
  ) {
    for (const [i, group] of [this.own, this.mirror].entries()) {
      const mesh = new Mesh(this.geometry, this.faceMaterials[i]);
      mesh.frustumCulled = false;
      mesh.renderOrder = 1;
      const lines = this.lines.mesh(this.lineMaterials[i]);
      lines.renderOrder = 2;
      group.add(mesh, lines);
    }
    this.geometry.setDrawRange(0, 0);
  }

  /** How far in front of the sculpt it is drawn, file units, and how opaque; the mirrored half is paler. */
  look(lift: number, opacity: number): void {
    this.faceMaterials.forEach((m, i) => {
      m.uniforms.uLift.value = lift;
      m.uniforms.uBack.value = new Vector3(...MODEL_COLOURS.back);
      m.uniforms.uPicked.value = new Vector3(...MODEL_COLOURS.picked);
      m.uniforms.uPointed.value = new Vector3(...MODEL_COLOURS.pointed);
      m.uniforms.uOpacity.value = opacity;
      m.uniforms.uFade.value = i === 1 ? 0.28 : 0;
    });
    this.lineMaterials.forEach((m, i) => {
      m.uniforms.uLift.value = lift * 1.25;
      m.uniforms.uFade.value = i === 1 ? 0.3 : 0;
    });
  }

  /** Drawn between two places across the picture alone, device pixels. */
  span(from: number, to: number): void {
    for (const m of [...this.faceMaterials, ...this.lineMaterials])
      m.uniforms.uSpan.value.set(Math.max(from, -1e6), Math.min(to, 1e6));
  }

  dispose(): void {
    this.geometry.dispose();
    for (const m of [...this.faceMaterials, ...this.lineMaterials]) m.dispose();
  }

  /** The other half across a plane, or none. */
  showMirror(plane: MirrorPlane | null): void {
    this.mirror.visible = plane !== null;
    this.mirror.matrixAutoUpdate = false;
    if (plane) this.mirror.matrix.copy(mirrorMatrix(plane.axis, plane.offset));
  }

  /** The faces can be left away while something finer stands for them; the edges stay. */
  showFaces(isShown: boolean): void {
    for (const group of [this.own, this.mirror]) group.children[0].visible = isShown;
  }

  /** Draws everything anew: another document, lens or theme. */
  rebuild(mesh: PolyMesh, plane: MirrorPlane | null): void {
    for (const f of [...this.slotsOf.keys()]) this.clearFace(f);
    this.lines.truncate(0);
    for (const f of mesh.faces()) this.drawFace(mesh, f);
    for (const e of mesh.edges()) this.drawEdge(mesh, e, plane);
    this.flush();
  }

  /** Draws what was touched, and the faces round it, whose normals turned. */
  update(mesh: PolyMesh, touched: Touched, plane: MirrorPlane | null): void {
    const faces = new Set(touched.faces);
    for (const f of touched.faces)
      if (mesh.hasFace(f)) for (const v of mesh.faceVertices(f)) for (const g of mesh.vertexFaces(v)) faces.add(g);
    for (const f of faces) {
      if (mesh.hasFace(f)) this.drawFace(mesh, f);
      else this.clearFace(f);
    }
    const edges = new Set(touched.edges);
    for (const f of faces) if (mesh.hasFace(f)) for (const h of mesh.faceHalves(f)) edges.add(h >> 1);
    for (const e of edges) this.drawEdge(mesh, e, plane);
    this.flush();
  }

  flush(): void {
    this.faces.flush();
    this.lines.flush();
    this.geometry.setDrawRange(0, this.used * CORNERS);
  }

  /** The tint alone, for lenses and emphasis. */
  tintFace(mesh: PolyMesh, f: number): void {
    const slots = this.slotsOf.get(f);
    if (!slots || !mesh.hasFace(f)) return;
    const corners = 3 * (mesh.faceHalves(f).length - 2);
    for (let i = 0; i < corners; i++) this.writeTint(slots[Math.floor(i / CORNERS)] * CORNERS + (i % CORNERS), f);
    for (const s of slots) this.faces.mark(s);
  }

  drawEdge(mesh: PolyMesh, e: number, plane: MirrorPlane | null): void {
    if (!mesh.hasEdge(e) || this.colours.isHidden?.(facesOfEdge(mesh, e))) return this.lines.hide(e);
    const { picked, pointed } = this.emphasis();
    const open = mesh.isLooseEdge(e) || (mesh.isBorderEdge(e) && !isMidlineEdge(mesh, e, plane));
    const isPicked = picked.edges.has(e);
    const own = this.colours.edge(e);
    const { pointed: lit, picked: plum, border, ink } = this.colours;
    const colour = pointed.edges.has(e) ? lit : isPicked ? plum : (own ?? (open ? border : ink));
    const width = pointed.edges.has(e) || isPicked ? 3.4 : own ? 2.8 : open ? 2.2 : 1.3;
    this.lines.set(e, mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e)), colour, width);
  }

  private drawFace(mesh: PolyMesh, f: number): void {
    if (this.colours.isHidden?.([f])) return this.clearFace(f);
    const vertices = mesh.faceVertices(f);
    const points = vertices.map((v) => mesh.point(v));
    const normals = vertices.map((v) => vertexNormal(mesh, v));
    const cut = triangulate(points);
    const slots = this.slotsFor(f, Math.ceil(cut.length / CORNERS));
    const position = this.faces.array('position'),
      normal = this.faces.array('normal');
    for (const s of slots) position.fill(0, s * CORNERS * 3, (s + 1) * CORNERS * 3);
    this.eachCorner(slots, cut, (at, corner) => {
      position.set(points[corner] as Vec3, 3 * at);
      normal.set(normals[corner], 3 * at);
      this.writeTint(at, f);
    });
  }

  private eachCorner(slots: number[], cut: number[], visit: (at: number, corner: number) => void): void {
    cut.forEach((corner, i) => visit(slots[Math.floor(i / CORNERS)] * CORNERS + (i % CORNERS), corner));
    for (const s of slots) this.faces.mark(s);
  }

  private writeTint(at: number, f: number): void {
    const { picked, pointed } = this.emphasis();
    const state = pointed.face === f ? 255 : picked.faces.has(f) ? 128 : 0;
    const rgb = this.colours.face(f);
    this.faces.array('tint').set([...rgb.map((x) => Math.round(x * 255)), state], 4 * at);
  }

  private slotsFor(f: number, count: number): number[] {
    const slots = this.slotsOf.get(f) ?? [];
    while (slots.length > count) this.release(slots.pop() as number);
    while (slots.length < count) {
      const slot = this.free.pop() ?? this.used++;
      this.faces.ensure(slot + 1);
      slots.push(slot);
    }
    this.slotsOf.set(f, slots);
    return slots;
  }

  private clearFace(f: number): void {
    for (const slot of this.slotsOf.get(f) ?? []) this.release(slot);
    this.slotsOf.delete(f);
  }

  private release(slot: number): void {
    this.faces.array('position').fill(0, slot * CORNERS * 3, (slot + 1) * CORNERS * 3);
    this.faces.mark(slot);
    this.free.push(slot);
  }
}

const facesOfEdge = (mesh: PolyMesh, e: number): number[] =>
  [mesh.face(2 * e), mesh.face(2 * e + 1)].filter((f) => f !== NONE);

function mirrorMatrix(axis: 'x' | 'y' | 'z', offset: number): Matrix4 {
  const k = axisIndex(axis);
  const s = [1, 1, 1];
  s[k] = -1;
  const t = [0, 0, 0];
  t[k] = 2 * offset;
  return new Matrix4().makeTranslation(t[0], t[1], t[2]).multiply(new Matrix4().makeScale(s[0], s[1], s[2]));
}
