import { useState, type ReactNode } from 'react';
import { Button, MainButton, Note, Range, Toggle } from '../../kit';
import { relayPicked, useSession } from '../../session';
import { count } from '../format';
import { Progress } from '../Progress';
import { useBench } from './Bench';
import { Card } from './Card';
import { FollowForm } from './FollowForm';
import { useBesideRun } from './useBesideRun';

/** Quads in the place of one, as powers of two: a slider's middle leaves the count as it is. */
const DENSITY = { min: -2, max: 2, step: 0.25 };

/** How picked faces are laid anew, for as long as the asset is open. */
interface Asked {
  power: number;
  followForm: number;
  usesGuides: boolean;
  followsLoops: boolean;
}
const START: Asked = { power: 0, followForm: 1, usesGuides: true, followsLoops: false };

/** The picked faces laid anew inside their border: how dense and how, progress, and one step when it is done. */
export function RelayCard(): ReactNode {
  const session = useSession('selection', 'mesh', 'reset', 'pieces', 'settings');
  const [isOpen, setOpen] = useState(false);
  const { settings } = useBench();
  const asked: Asked = { ...START, ...settings.of('relay') };
  const { power, followForm, usesGuides, followsLoops } = asked;
  const change = (by: Partial<Asked>): void => settings.remember('relay', by);
  const { under, failed, begin, stop } = useBesideRun();
  const picked = session.selection.faces.length;
  const density = 2 ** power;
  const { guides } = session.settings;
  const relay = (): void => {
    const lines = usesGuides ? guides.map(({ points, closed }) => ({ points, closed })) : [];
    begin((tell) => relayPicked(session, { density, evenness: 0.3, followForm, keepEdges: null, lines, followsLoops }, tell)); // prettier-ignore
  };
  return (
    <Card
      glyph="relay"
      title="Re-lay"
      aside={under ? `${Math.round(100 * under.done)} %` : ''}
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="Lays the picked faces anew inside their border. Nothing outside changes."
    >
      <Range
        label="Density"
        value={power}
        {...DENSITY}
        show={(v) => `${(2 ** v).toFixed(2)} times`}
        onChange={(to) => change({ power: to })}
      />
      <FollowForm value={followForm} onChange={(to) => change({ followForm: to })} />
      <Toggle
        label="Follow the loops that are there"
        value={followsLoops}
        onChange={(on) => change({ followsLoops: on })}
      />
      {guides.length > 0 && (
        <Toggle label="Follow the guides" value={usesGuides} onChange={(on) => change({ usesGuides: on })} />
      )}
      {picked > 0 ? (
        <Note>
          <span className="num">{count(picked)}</span> faces picked, about{' '}
          <span className="num">{count(Math.round(density * picked))}</span> in their place.
        </Note>
      ) : (
        <Note>Pick the faces first, or a region of them.</Note>
      )}
      {under ? (
        <>
          <Progress label={under.stage} value={under.done} />
          <Button onPress={stop}>Cancel</Button>
        </>
      ) : (
        <MainButton isDisabled={picked === 0} onPress={relay}>
          Re-lay them
        </MainButton>
      )}
      {failed !== null && <p role="alert">{failed}</p>}
    </Card>
  );
}
