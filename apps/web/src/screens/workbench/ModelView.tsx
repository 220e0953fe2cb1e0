import { useCallback, useRef, type ReactNode, type CSSProperties } from 'react';
import { Check, TriangleAlert } from 'lucide-react';
import styled from 'styled-components';
import { Viewport, VIEW_SIDES, LENSES, SceneView } from '../../viewport';
import { Button } from '../../kit';
import { useSession, type Notice } from '../../session';
import { Progress } from '../Progress';
import { useBench, useView, type Bench } from './Bench';
import { LensLegend } from './LensLegend';
import { RightClickList } from './RightClickList';

const Stage = styled.div`
  position: absolute;
  inset: 0;
  overflow: hidden;
`;
const Surface = styled.div`
  position: absolute;
  inset: 0;
  touch-action: none;
  cursor: crosshair;
  &:focus-visible {
    outline: 2px solid ${(p) => p.theme.glaze};
    outline-offset: -3px;
  }
`;
const Panel = styled.div`
  position: absolute;
  background: ${(p) => p.theme.paper};
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 11px;
  padding: 4px;
  display: flex;
  gap: 2px;
  button {
    font: inherit;
    font-size: 12px;
    color: ${(p) => p.theme.mute};
    border: 0;
    background: none;
    border-radius: 8px;
    padding: 5px 11px;
    cursor: pointer;
    text-align: left;
  }
  button[aria-pressed='true'] {
    background: ${(p) => p.theme.ink};
    color: ${(p) => p.theme.paper};
  }
  button:hover {
    box-shadow: inset 0 0 0 1px ${(p) => p.theme.glaze};
  }
`;
const TopLeft = styled.div`
  position: absolute;
  left: 12px;
  top: 12px;
  max-width: min(420px, 60%);
  display: grid;
  gap: 8px;
  pointer-events: none;
`;
const SlowBox = styled.div`
  width: 260px;
  background: ${(p) => p.theme.raised};
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 9px;
  padding: 0 12px 10px;
  pointer-events: auto;
`;
/** What could not be done is a warning, what was done is not. */
const NoticeBox = styled.div<{ $kind: Notice['kind'] }>`
  display: flex;
  gap: 8px;
  background: ${(p) => p.theme.raised};
  border: 1px solid ${(p) => (p.$kind === 'done' ? p.theme.line : p.theme.rust)};
  border-left: 5px solid ${(p) => (p.$kind === 'done' ? p.theme.moss : p.theme.rust)};
  border-radius: 9px;
  padding: 8px 12px;
  pointer-events: none;
  svg {
    flex: none;
    margin-top: 2px;
    color: ${(p) => (p.$kind === 'done' ? p.theme.moss : p.theme.rust)};
  }
`;
const Cursor = styled.div`
  position: absolute;
  width: 22px;
  height: 22px;
  margin: -11px;
  border-radius: 50%;
  border: 2px solid ${(p) => p.theme.ink};
  box-shadow: 0 0 0 2px ${(p) => p.theme.honey};
  pointer-events: none;
`;
const Wipe = styled.div`
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 2px dashed ${(p) => p.theme.ink};
  pointer-events: none;
  span {
    position: absolute;
    top: 14px;
    left: 8px;
    padding: 2px 8px;
    border-radius: 7px;
    font-size: 12px;
    white-space: nowrap;
    color: ${(p) => p.theme.ink};
    background: ${(p) => p.theme.paper};
  }
  span:first-child {
    left: auto;
    right: 10px;
  }
`;
const Beside = styled.div`
  position: absolute;
  max-width: 260px;
  padding: 2px 8px;
  border-radius: 7px;
  font-size: 12px;
  color: ${(p) => p.theme.paper};
  background: ${(p) => p.theme.ink};
  pointer-events: none;
`;
const Outline = styled.svg`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  polygon {
    fill: ${(p) => p.theme.plum}22;
    stroke: ${(p) => p.theme.plum};
    stroke-dasharray: 5 3;
  }
`;
/** The model, and what floats at the view's edges: sides, lenses, a legend. Nothing else stands over it. */
export function ModelView({ bench }: { bench: Bench }): ReactNode {
  const surface = useRef<HTMLDivElement>(null);
  const onReady = useCallback(
    (invalidate: () => void) => {
      const scene = new SceneView(bench.session, bench.view, invalidate);
      bench.attach(scene, surface.current as HTMLElement);
      const { dispose } = scene;
      scene.dispose = () => {
        dispose.call(scene);
        bench.detach();
      };
      return scene;
    },
    [bench],
  );
  const frame = useRef(0);
  const onFrame = useCallback(() => {
    if (surface.current) surface.current.dataset.frame = String(++frame.current);
  }, []);
  return (
    <Stage>
      <Viewport onReady={onReady} onFrame={onFrame} />
      <Surface
        ref={surface}
        role="application"
        tabIndex={0}
        data-view="model"
        aria-label="The model. Arrow keys move a cursor over it, Enter presses there, Alt with arrows turns the view."
      />
      <KeyboardCursor />
      <WipeLine />
      <Told />
      <RightClickList />
      <NoticeLine />
      <Sides />
      <LensLegend />
      <Lenses />
    </Stage>
  );
}

/** Where what is there, or one way that something was laid, ends and another begins. */
function WipeLine(): ReactNode {
  const { tried, against, wipe } = useView();
  if (!tried || wipe === 0 || wipe === 1) return null;
  return (
    <Wipe aria-hidden style={{ left: `${100 * wipe}%` }}>
      <span>{against ? against.name : 'before'}</span>
      <span>{tried.name}</span>
    </Wipe>
  );
}

function KeyboardCursor(): ReactNode {
  const cursor = useBench().router?.cursor;
  return cursor ? <Cursor style={{ left: cursor.x, top: cursor.y }} /> : null;
}

/** The words of the open gesture beside the pointer, and the outline of a box or lasso. */
function Told(): ReactNode {
  const { told, outline, router, scene } = useBench();
  const at = router?.pointer;
  return (
    <>
      {told && at && (
        <Beside className="num" style={besidePointer(at, scene?.camera.width ?? Infinity)}>
          {told}
        </Beside>
      )}
      {outline && (
        <Outline aria-hidden>
          <polygon points={outline.map(({ x, y }) => `${x},${y}`).join(' ')} />
        </Outline>
      )}
    </>
  );
}

/** Words beside the pointer: on its right, but where the view ends soon, on its left. */
const besidePointer = ({ x, y }: { x: number; y: number }, width: number): CSSProperties =>
  x > width - ROOM ? { right: width - x + 12, top: y + 18 } : { left: x + 16, top: y + 18 };
/** pixels */
const ROOM = 260;

function NoticeLine(): ReactNode {
  const { notice } = useSession('notice');
  const { slow } = useBench();
  return (
    <TopLeft>
      {slow.under && (
        <SlowBox>
          <Progress label={slow.under.op.title} value={slow.under.done} />
          <Button onPress={() => slow.cancel()}>Cancel</Button>
        </SlowBox>
      )}
      <div role="status">
        {notice && (
          <NoticeBox $kind={notice.kind}>
            {notice.kind === 'done' ? <Check size={15} aria-hidden /> : <TriangleAlert size={15} aria-hidden />}
            <span>{notice.text}</span>
          </NoticeBox>
        )}
      </div>
    </TopLeft>
  );
}

function Sides(): ReactNode {
  const bench = useBench();
  const current = bench.scene?.camera.side;
  return (
    <Panel style={{ right: 12, top: 12, flexDirection: 'column' }} role="group" aria-label="View from">
      {VIEW_SIDES.map((side) => (
        <button
          key={side}
          type="button"
          aria-pressed={current === side}
          onClick={() => {
            bench.scene?.camera.look(side);
            bench.scene?.invalidate();
            bench.changed();
          }}
        >
          {side[0].toUpperCase() + side.slice(1)}
        </button>
      ))}
    </Panel>
  );
}

function Lenses(): ReactNode {
  const { view } = useBench();
  const { lens } = useView();
  return (
    <Panel style={{ bottom: 12, left: '50%', transform: 'translateX(-50%)' }} role="group" aria-label="Lens">
      {LENSES.map((l) => (
        <button key={l} type="button" aria-pressed={lens === l} onClick={() => view.set({ lens: l })}>
          {l[0].toUpperCase() + l.slice(1)}
        </button>
      ))}
    </Panel>
  );
}
