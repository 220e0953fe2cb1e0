import { addScaled, type Vec3 } from '../math';
import type { Form } from './ground';

/** A form at a distance off another along its normals, file units, inside it where that is negative: what is held on it stays clear of the body below. Cost: as the other. */
export function liftedForm(form: Form, gap: number): Form {
  const lifted = (p: Vec3): Vec3 => {
    const { point, normal } = form.closest(p);
    return addScaled(point, normal, gap);
  };
  return {
    closest(p, key) {
      const { point, normal } = form.closest(p, key);
      return { point: addScaled(point, normal, gap), normal };
    },
    ray(from, direction) {
      const hit = form.ray?.(from, direction) ?? null;
      return hit && lifted(hit);
    },
    section(near, normal) {
      const found = form.section?.(near, normal) ?? null;
      return found && { ...found, points: found.points.map(lifted) };
    },
  };
}
