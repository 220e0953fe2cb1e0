import { CircleHelp } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import type { Stage } from '@half-loop/contract';
import { Button, DialogBox, DialogButtons, Kbd, QuietButton } from '../../kit';
import { useSession } from '../../session';
import { timeText } from '../format';
import { KeyTable } from '../SettingsScreen';
import { STOPS } from './Bench';
import { CommandList } from './CommandList';
import type { Commands } from './useCommands';

const Bar = styled.header`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(420px, 640px) minmax(0, 1fr);
  align-items: center;
  padding: 0 16px;
  border-bottom: 1px solid ${(p) => p.theme.line};
  .where {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    a {
      color: ${(p) => p.theme.mute};
    }
    h1 {
      display: inline;
      font-weight: 700;
    }
  }
  .right {
    display: flex;
    justify-content: flex-end;
    align-items: center;
    gap: 8px;
    white-space: nowrap;
  }
`;
const Arc = styled.nav`
  position: relative;
  height: 52px;
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    overflow: visible;
  }
  ol {
    display: flex;
    position: absolute;
    inset: 0;
  }
  li {
    flex: 1;
  }
  a {
    display: flex;
    align-items: flex-end;
    justify-content: center;
    height: 52px;
    padding-bottom: 4px;
    color: ${(p) => p.theme.mute};
    text-decoration: none;
    border-radius: 9px;
    outline-offset: -3px;
  }
  a[aria-current] {
    color: ${(p) => p.theme.ink};
    font-weight: 700;
  }
  .base {
    stroke: ${(p) => p.theme.line};
  }
  .done {
    stroke: ${(p) => p.theme.glaze};
  }
  circle {
    fill: ${(p) => p.theme.paper};
    stroke: ${(p) => p.theme.mute};
    stroke-width: 1.6;
  }
  circle.full {
    fill: ${(p) => p.theme.glaze};
    stroke: ${(p) => p.theme.glaze};
  }
`;

/** Height of the arc at a share of its length: half a loop, laid flat. */
const arcAt = (t: number): { x: number; y: number } => ({ x: 1000 * t, y: 24 - 17 * Math.sin(Math.PI * t) ** 0.85 });
const centre = (i: number): number => (i + 0.5) / STOPS.length;
function arcPath(from: number, to: number): string {
  const steps = Math.max(2, Math.round((to - from) * 60));
  return Array.from({ length: steps + 1 }, (_, i) => {
    const { x, y } = arcAt(from + ((to - from) * i) / steps);
    return `${i === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`;
  }).join('');
}

export function TopBar({ stage, commands }: { stage: Stage; commands: Commands }): ReactNode {
  const session = useSession('save', 'settings');
  const { done } = session.document;
  const reached = Math.max(-1, ...done.map((s) => STOPS.findIndex((x) => x.stage === s)));
  return (
    <Bar>
      <div className="where">
        <Link to="/">Library</Link> / <h1>{session.asset.name}</h1>
      </div>
      <Arc aria-label="Stops">
        <svg viewBox="0 0 1000 52" preserveAspectRatio="none" aria-hidden>
          <path
            className="base"
            d={arcPath(centre(0), centre(5))}
            fill="none"
            strokeWidth="3"
            vectorEffect="non-scaling-stroke"
          />
          {reached >= 0 && (
            <path
              className="done"
              d={arcPath(centre(0), centre(Math.min(5, reached + 1)))}
              fill="none"
              strokeWidth="3"
              vectorEffect="non-scaling-stroke"
            />
          )}
        </svg>
        <Dots stage={stage} done={done} />
        <ol>
          {STOPS.map(({ stage: s, title }) => (
            <li key={s}>
              <Link to={`/a/${session.asset.id}/${s}`} aria-current={s === stage ? 'step' : undefined}>
                {title}
              </Link>
            </li>
          ))}
        </ol>
      </Arc>
      <div className="right">
        <SaveLine />
        <QuietButton aria-label="Command list" onPress={commands.openList}>
          <Kbd>/</Kbd>
        </QuietButton>
        <QuietButton aria-label="Keys" onPress={commands.openKeys}>
          <CircleHelp size={16} aria-hidden />
        </QuietButton>
      </div>
      <CommandList commands={commands} />
      <DialogBox title="Keys" isOpen={commands.shown === 'keys'} onClose={commands.close} width={640}>
        <KeyTable />
        <DialogButtons>
          <Button autoFocus onPress={commands.close}>
            Close
          </Button>
        </DialogButtons>
      </DialogBox>
    </Bar>
  );
}

function Dots({ stage, done }: { stage: Stage; done: readonly Stage[] }): ReactNode {
  return (
    <svg aria-hidden>
      {STOPS.map(({ stage: s }, i) => (
        <circle
          key={s}
          cx={`${centre(i) * 100}%`}
          cy={arcAt(centre(i)).y}
          r={s === stage ? 7 : 4.5}
          className={s === stage || done.includes(s) ? 'full' : ''}
        />
      ))}
    </svg>
  );
}

function SaveLine(): ReactNode {
  const session = useSession('save', 'history');
  const { state } = session.autoSave;
  const text = {
    saved: () => `Saved ${timeText(session.asset.savedAt)}`,
    saving: () => 'Saving …',
    waiting: () => 'Not saved yet: kept in this browser',
    conflict: () => 'Saved elsewhere too',
  }[state.kind]();
  return (
    <span role="status" title={state.kind === 'waiting' ? state.why : undefined}>
      {text}
    </span>
  );
}
