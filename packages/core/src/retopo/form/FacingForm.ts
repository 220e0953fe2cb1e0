import { addScaled, dot, type Vec3 } from '../../math';
import { WalkingForm, type SculptSurface } from '../../surface';

/** Beyond this share of the diagonal a ray's hit is another part of the form. */
const REACH = 0.1;

/**
 * Nearest points of a form on the side that faces as asked: on a thin form the nearest point of all may lie on its back. Each key's foot is walked from
 * where it was last; where it faces away, rays along the normal look for the right side. Cost: as a walk; two rays where that fails.
 */
export class FacingForm {
  private readonly walking: WalkingForm;
  /** key → the key that its walk goes by now: a new one where the old was led to the wrong side */
  private readonly names = new Map<number, number>();
  private fresh = 1 << 28;

  constructor(readonly surface: SculptSurface) {
    this.walking = new WalkingForm(surface);
  }

  /** The nearest point whose side faces like `facing`, or the nearest of all where there is none near by. */
  closest(p: Vec3, facing: Vec3, key: number): { point: Vec3; normal: Vec3 } {
    const name = this.names.get(key) ?? key;
    const found = this.walking.closest(p, name);
    if (dot(found.normal, facing) >= 0) return found;
    const back = addScaled(p, facing, -1e-9 * this.surface.diagonal);
    let best: { point: Vec3; normal: Vec3; distance: number } | null = null;
    for (const way of [1, -1]) {
      const hit = this.surface.raycast(way > 0 ? back : p, [way * facing[0], way * facing[1], way * facing[2]]);
      if (hit && dot(hit.normal, facing) > 0 && hit.distance < REACH * this.surface.diagonal && hit.distance < (best?.distance ?? Infinity)) best = hit; // prettier-ignore
    }
    if (!best) return found;
    this.names.set(key, this.fresh);
    return this.walking.closest(best.point, this.fresh++);
  }
}
