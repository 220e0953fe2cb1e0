import { useState, type ReactNode } from 'react';
import type { Region } from '@half-loop/contract';
import { Button, Choice, ColourBox, Note, Range, TextBox, Toggle } from '../../kit';
import { useSession, type Session } from '../../session';
import type { RegionSettings } from '../../tools';
import { count, lengthText } from '../format';
import { useBench, useView } from './Bench';
import { SheetBody } from './SheetBody';

const NEW = 'new';

/** The region in hand, how it is painted on the sculpt, and what can be made of it. */
export function RegionBody(): ReactNode {
  const bench = useBench();
  const session = useSession('settings', 'reset');
  const { regions, unit } = session.settings;
  const { surface } = session;
  const s = bench.settings.of('region') as unknown as RegionSettings;
  const set = (key: keyof RegionSettings) => (value: unknown) => bench.settings.change('region', key, value);
  if (!surface) return <Note>This asset has no sculpt to paint on. Pick faces and make a region of them instead.</Note>;
  const own = regions.find((r) => r.id === s.region) ?? null;
  const size = surface.diagonal;
  return (
    <>
      <Choice
        label="Region"
        value={own ? String(own.id) : NEW}
        options={[...regions.map((r): [string, string] => [String(r.id), r.name]), [NEW, 'a new one']]}
        onChange={(to) => set('region')(to === NEW ? null : Number(to))}
      />
      <Choice
        label="On the sculpt"
        value={s.does}
        options={[
          ['paint', 'paint'],
          ['lasso', 'draw round'],
          ['angle', 'fill by angle'],
          ['part', 'whole part'],
        ]}
        onChange={set('does')}
      />
      <Toggle label="Takes away" value={s.takesAway} onChange={set('takesAway')} />
      {s.does === 'paint' && (
        <Range
          label="Size"
          value={s.radius}
          min={size / 400}
          max={size / 5}
          step={size / 800}
          show={(v) => lengthText(v, unit)}
          onChange={set('radius')}
        />
      )}
      {s.does === 'angle' && (
        <>
          <Range
            label="Bends by"
            value={s.angle}
            min={1}
            max={90}
            step={1}
            show={(v) => `${v}°`}
            onChange={set('angle')}
          />
          <Choice
            label="Measured from"
            value={s.against}
            options={[
              ['start', 'where it began'],
              ['neighbour', 'the point before'],
            ]}
            onChange={set('against')}
          />
        </>
      )}
      {own && <RegionChanges region={own} />}
      {own && <SheetBody region={own} />}
    </>
  );
}

/** What changes a painted region as a whole, its name, and whether it is shown. */
function RegionChanges({ region }: { region: Region }): ReactNode {
  const bench = useBench();
  const session = useSession('settings', 'reset');
  const view = useView();
  const { unit, regions } = session.settings;
  const { sculptRegions: painted, surface } = session;
  const { ground, labels } = painted;
  const [by, setBy] = useState(() => Math.max((surface?.diagonal ?? 1) / 100, 1.5 * (ground?.side ?? 0)));
  if (!ground || !surface) return null;
  const points = painted.counts().get(region.id) ?? 0;
  const { id, name } = region;
  const change = (found: number[], what: string, to: number): void => {
    if (found.length > 0) painted.put(`“${name}” ${what} by ${lengthText(by, unit)}`, found, to);
    else session.say({ kind: 'refused', text: `No point of the sculpt lies within ${lengthText(by, unit)} of the border; choose more.` }); // prettier-ignore
  };
  const grow = (): void =>
    change(
      ground.grown((v) => labels[v] === id, by),
      'grown',
      id,
    );
  const shrink = (): void => change(ground.grown((v) => labels[v] !== id, by).filter((v) => labels[v] === id), 'shrunk', 0); // prettier-ignore
  /** what is in no region comes in, what was in goes out; other regions stay as they are */
  const invert = (): void => {
    const now = labels.map((label) => (label === id ? 0 : label === 0 ? id : label));
    painted.putAll(`“${name}” inverted`, now);
  };
  const { hiddenRegions: hidden } = view;
  const others = [0, ...regions.map((r) => r.id)].filter((r) => r !== id);
  const isAlone = !hidden.has(id) && others.every((r) => hidden.has(r));
  const flip = (): void => {
    const now = new Set(hidden);
    if (!now.delete(id)) now.add(id);
    bench.view.set({ hiddenRegions: now });
  };
  return (
    <>
      <TextBox
        label="Name"
        value={name}
        onChange={(to) => {
          const fresh = to.slice(0, 80);
          if (fresh.trim() !== '')
            session.changeSettings('Region renamed', { regions: regions.map((r) => (r.id === id ? { ...r, name: fresh } : r)) }); // prettier-ignore
        }}
      />
      <ColourBox
        label="Tint"
        value={region.tint}
        onChange={(tint) =>
          session.changeSettings(`“${name}” tinted`, {
            regions: regions.map((r) => (r.id === id ? { ...r, tint } : r)),
          })
        }
      />
      <Note>
        <span className="num">{count(points)}</span> of <span className="num">{count(ground.count)}</span> points of the
        sculpt.
      </Note>
      <Range
        label="Grow or shrink by"
        value={by}
        min={surface.diagonal / 1000}
        max={surface.diagonal / 10}
        step={surface.diagonal / 1000}
        show={(v) => lengthText(v, unit)}
        onChange={setBy}
      />
      <div style={{ display: 'flex', gap: 6, flexWrap: 'wrap' }}>
        <Button isDisabled={points === 0} onPress={grow}>
          Grow
        </Button>
        <Button isDisabled={points === 0} onPress={shrink}>
          Shrink
        </Button>
        <Button onPress={invert}>Invert</Button>
        <Button isDisabled={points === 0} onPress={() => borderAsGuides(session, region)}>
          Border as guides
        </Button>
      </div>
      <Toggle label="Shown" value={!hidden.has(id)} onChange={flip} />
      <Toggle
        label="Nothing else shown"
        value={isAlone}
        onChange={(on) => bench.view.set({ hiddenRegions: new Set(on ? others : []) })}
      />
    </>
  );
}

/** The smooth border of a painted region kept as guides, one for each line of it. */
function borderAsGuides(session: Session, region: Region): void {
  const { guides } = session.settings;
  const curves = session.sculptRegions.border(region.id);
  if (curves.length === 0) return session.say({ kind: 'refused', text: 'This region has no border: it is all of the sculpt, or nothing.' }); // prettier-ignore
  const made = curves.map(({ points, closed }, i) => ({
    name: `Border of ${region.name}${curves.length > 1 ? ` ${i + 1}` : ''} on the sculpt`.slice(0, 80),
    points: points.map(([x, y, z]): [number, number, number] => [x, y, z]),
    closed,
  }));
  const rest = guides.filter((g) => !made.some((m) => m.name === g.name));
  session.changeSettings(`Border of “${region.name}” kept as a guide`, { guides: [...rest, ...made] });
}
