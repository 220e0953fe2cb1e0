import { useEffect, useRef, useState } from 'react';
import { encodeMesh } from '@half-loop/core/mesh';
import type { Flow } from '@half-loop/core/retopo';
import { FlowPreview, messageOf, useSession, type LayOptions, type Session } from '../../session';
import { useBench } from './Bench';

export interface FlowShown {
  /** while the form is made ready */
  under: { stage: string; done: number } | null;
  /** once there is one */
  shown: Flow | null;
  failed: string | null;
}
const NOTHING: FlowShown = { under: null, shown: null, failed: null };

/** Shows where quads would run, for what is asked now, as long as it is wanted: sample loops and poles in the view. */
export function useFlow(isWanted: boolean, over: 'sculpt' | 'piece', options: LayOptions): FlowShown {
  const session = useSession('mesh', 'settings', 'reset', 'pieces');
  const { view } = useBench();
  const [shown, setShown] = useState(NOTHING);
  const preview = useRef<FlowPreview | null>(null);
  const { evenness, followForm, keepEdges, lines, levels, smoothing, followsLoops, densities, regions } = options;
  // a piece of a symmetric asset is half already
  const isHalf = over === 'piece' && options.plane !== null;
  const plane = over === 'piece' ? null : options.plane;
  const faces = isHalf ? options.faces / 2 : options.faces;
  // what costs seconds to make ready again
  const form = JSON.stringify([
    over,
    keepEdges,
    plane,
    levels,
    smoothing,
    over === 'piece' ? session.steps.position : 0,
  ]);
  useEffect(() => {
    if (!isWanted) return;
    setShown({ ...NOTHING, under: { stage: 'Starting', done: 0 } });
    const made = new FlowPreview(inputOf(session, over, levels), { keepEdges, plane, smoothing }, (news) => {
      if ('stage' in news) setShown({ ...NOTHING, under: news });
      else if ('failed' in news) setShown({ ...NOTHING, failed: messageOf(news.failed) });
      else {
        view.set({ flow: news.flow && { ...news.flow, over, keepsSharp: keepEdges !== null } });
        setShown({ ...NOTHING, shown: news.flow });
      }
    });
    preview.current = made;
    return () => {
      made.close();
      preview.current = null;
      view.set({ flow: null });
      setShown(NOTHING);
    };
    // `form` stands for all that is read here of what is asked
  }, [isWanted, form, session, view]);
  const asked = JSON.stringify([faces, evenness, followForm, lines, followsLoops, densities, regions]);
  useEffect(() => {
    if (!isWanted) return;
    const soon = setTimeout(
      () => preview.current?.ask({ faces, evenness, followForm, lines, followsLoops, densities }, regions),
      120,
    );
    return () => clearTimeout(soon);
    // `asked` stands for its seven
  }, [isWanted, form, asked]);
  return shown;
}

function inputOf(
  { surface, mesh }: Session,
  over: 'sculpt' | 'piece',
  levels: number,
): ConstructorParameters<typeof FlowPreview>[0] {
  return over === 'sculpt' && surface
    ? { triangles: { positions: surface.positions, indices: surface.indices } }
    : { piece: encodeMesh(mesh), levels };
}
