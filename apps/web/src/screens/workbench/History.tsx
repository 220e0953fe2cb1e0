import { Crosshair, Redo2, Undo2 } from 'lucide-react';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { Heading, Note, QuietButton, Row } from '../../kit';
import { useSession } from '../../session';
import { useBench } from './Bench';

const Steps = styled.ol`
  max-height: 180px;
  overflow: auto;
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 9px;
  background: ${(p) => p.theme.raised};
  li {
    display: flex;
    align-items: center;
  }
  li > button:first-child {
    flex: 1;
    text-align: left;
    font: inherit;
    font-size: 12px;
    color: inherit;
    background: none;
    border: 0;
    padding: 4px 8px;
    cursor: pointer;
    outline-offset: -2px;
  }
  li > button:first-child:hover {
    background: ${(p) => p.theme.paper2};
  }
  .undone button:first-child {
    color: ${(p) => p.theme.mute};
    font-style: italic;
  }
  .now {
    background: ${(p) => p.theme.glazeSoft};
  }
`;

/** The steps, newest first: a press goes back or on to one, and each can be looked for in the view. */
export function History(): ReactNode {
  const bench = useBench();
  const session = useSession('history');
  const { titles, position } = session.steps;
  return (
    <>
      <Row style={{ marginTop: 12 }}>
        <Heading style={{ margin: 0 }}>Steps</Heading>
        <span>
          <QuietButton aria-label="Undo" isDisabled={!session.canUndo} onPress={() => void session.undo()}>
            <Undo2 size={15} aria-hidden />
          </QuietButton>
          <QuietButton aria-label="Redo" isDisabled={!session.canRedo} onPress={() => void session.redo()}>
            <Redo2 size={15} aria-hidden />
          </QuietButton>
        </span>
      </Row>
      {titles.length === 0 && <Note>Nothing done yet in this browser.</Note>}
      {titles.length > 0 && (
        <Steps reversed aria-label="Steps, newest first">
          {titles
            .map(({ name, at }, i) => (
              <li key={`${i}-${at}`} className={i >= position ? 'undone' : i === position - 1 ? 'now' : ''}>
                <button
                  type="button"
                  aria-current={i === position - 1 ? 'step' : undefined}
                  onClick={() => void session.goTo(() => i + 1)}
                >
                  {name}
                </button>
                <QuietButton aria-label={`Show where step ${i + 1} was`} onPress={() => void bench.flyToStep(i)}>
                  <Crosshair size={13} aria-hidden />
                </QuietButton>
              </li>
            ))
            .reverse()}
          <li className={position === 0 ? 'now' : ''}>
            <button type="button" onClick={() => void session.goTo(() => 0)}>
              As it was opened
            </button>
          </li>
        </Steps>
      )}
    </>
  );
}
