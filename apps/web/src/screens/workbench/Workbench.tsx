import { useCallback, useEffect, useState, type ReactNode } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import styled from 'styled-components';
import { StageSchema, type Stage } from '@half-loop/contract';
import * as z from 'zod/mini';
import { Button, Main, PageFrame } from '../../kit';
import { api, messageOf, openSession, SessionContext, type Session } from '../../session';
import { Progress } from '../Progress';
import { Bench, BenchContext, useBench, useView } from './Bench';
import { ConflictDialog } from './ConflictDialog';
import { LeftColumn } from './LeftColumn';
import { Ledger } from './Ledger';
import { ModelView } from './ModelView';
import { TopBar } from './TopBar';
import { useCommands } from './useCommands';

const Frame = styled.div`
  height: 100%;
  display: grid;
  grid-template-rows: 52px 1fr;
  overflow: clip;
`;
const Columns = styled.div<{ $hidden: boolean }>`
  display: grid;
  grid-template-columns: ${(p) => (p.$hidden ? '0 1fr 0' : '236px 1fr 236px')};
  min-height: 0;
  > aside {
    /* hidden inputs of switches and choices scroll with their column, not the page */
    position: relative;
    overflow: auto;
    padding: 12px;
    background: ${(p) => p.theme.paper};
    visibility: ${(p) => (p.$hidden ? 'hidden' : 'visible')};
    padding: ${(p) => (p.$hidden ? 0 : '12px')};
  }
  > main {
    position: relative;
    min-width: 0;
    border: solid ${(p) => p.theme.line};
    border-width: 0 1px;
  }
`;

/** Opens the asset of the address, then shows the workbench. */
export default function Workbench(): ReactNode {
  const { asset = '', stage } = useParams();
  const parsed = z.safeParse(StageSchema, stage);
  const { bench, opening, error, retry } = useBenchOf(asset);
  if (error)
    return (
      <PageFrame>
        <Main>
          <h1>This asset could not be opened</h1>
          <p role="alert">{error}</p>
          <p style={{ display: 'flex', gap: 8, marginTop: 12 }}>
            <Button onPress={retry}>Try again</Button>
            <Link to="/">Back to the Library</Link>
          </p>
        </Main>
      </PageFrame>
    );
  if (!bench) return <Opening stage={opening.stage} done={opening.done} />;
  return (
    <SessionContext value={bench.session}>
      <BenchContext value={bench}>
        <Open stage={parsed.success ? parsed.data : 'lay'} />
      </BenchContext>
    </SessionContext>
  );
}

function Opening({ stage: label, done }: { stage: string; done: number }): ReactNode {
  return (
    <PageFrame>
      <Main>
        <h1>Opening the asset</h1>
        <div style={{ maxWidth: 480 }}>
          <Progress label={label} value={done} />
        </div>
        <p>
          <Link to="/">Back to the Library</Link>
        </p>
      </Main>
    </PageFrame>
  );
}

function Open({ stage }: { stage: Stage }): ReactNode {
  const bench = useBench();
  const { columnsHidden } = useView();
  const commands = useCommands(stage);
  // what was told at one stop is not about the next
  useEffect(() => () => bench.session.say(null), [bench, stage]);
  return (
    <Frame>
      <TopBar stage={stage} commands={commands} />
      <Columns $hidden={columnsHidden}>
        <aside aria-label="Tools" hidden={columnsHidden}>
          <LeftColumn stage={stage} />
        </aside>
        <main>
          <ModelView bench={bench} />
        </main>
        <aside aria-label="Ledger" hidden={columnsHidden}>
          <Ledger stage={stage} />
        </aside>
      </Columns>
      <ConflictDialog />
    </Frame>
  );
}

/** The bench of an asset, kept while only the stop changes. */
interface Opened {
  bench: Bench | null;
  opening: { stage: string; done: number };
  error: string | null;
  retry: () => void;
}
function useBenchOf(assetId: string): Opened {
  const [bench, setBench] = useState<Bench | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [opening, setOpening] = useState({ stage: 'Looking it up', done: 0 });
  const [attempt, setAttempt] = useState(0);
  const [params, setParams] = useSearchParams();
  useEffect(() => {
    const controller = new AbortController();
    let session: Session | null = null;
    openSession(assetId, controller.signal, (stage, done) => setOpening({ stage, done }))
      .then((opened) => {
        session = opened;
        if (controller.signal.aborted) return opened.close();
        document.title = `${opened.asset.name} · Half Loop`;
        setBench(new Bench(opened));
      })
      .catch((e: unknown) => !controller.signal.aborted && setError(messageOf(e)));
    return () => {
      controller.abort();
      session?.close();
      setBench(null);
      setError(null);
      document.title = 'Half Loop';
    };
  }, [assetId, attempt]);
  const restore = params.get('restore');
  useEffect(() => {
    if (!bench || !restore) return;
    setParams({}, { replace: true });
    void restoreVersion(bench.session, restore);
  }, [bench, restore, setParams]);
  return { bench, opening, error, retry: useCallback(() => setAttempt((n) => n + 1), []) };
}

/** Puts a version's document in place as one step, which can be undone like any other. */
async function restoreVersion(session: Session, versionId: string): Promise<void> {
  try {
    const { versions } = await api.versions(session.asset.id);
    const version = versions.find((v) => v.id === versionId);
    if (!version) return session.say({ kind: 'refused', text: 'That version is not there any more.' });
    session.replaceDocument(`Version “${version.name}” restored`, await api.versionDocument(version.document));
  } catch (error) {
    session.say({ kind: 'refused', text: messageOf(error) });
  }
}
