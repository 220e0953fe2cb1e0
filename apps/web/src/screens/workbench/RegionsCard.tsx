import { useState, type ReactNode } from 'react';
import styled from 'styled-components';
import type { Region } from '@half-loop/contract';
import { chainsOf, EMPTY_SELECTION, liveSelection } from '@half-loop/core/mesh';
import { markBorder, regionBorder, regionFaces, setRegion } from '@half-loop/core/ops';
import { Button, Choice, ColourBox, Note, TextBox } from '../../kit';
import { newRegion, useSession, type Session } from '../../session';
import { count } from '../format';
import { Card } from './Card';

const Line = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  margin-top: 6px;
  i {
    width: 12px;
    height: 12px;
    border-radius: 3px;
    border: 1px solid ${(p) => p.theme.line};
  }
  span {
    flex: 1;
  }
`;

/** Regions of the low-poly: named and tinted sets of faces, whose borders the tools respect. */
export function RegionsCard(): ReactNode {
  const session = useSession('settings', 'mesh', 'reset', 'selection');
  const [isOpen, setOpen] = useState(false);
  const [name, setName] = useState('');
  const { regions } = session.settings;
  const none = session.selection.faces.length === 0;
  const make = (): void => {
    const region = newRegion(session, name);
    const { selection } = session;
    session.changeSettings(`“${region.name}” named`, { regions: [...regions, region] });
    session.run(setRegion, { region: region.id }, selection);
    setName('');
  };
  const faces = isOpen ? regionFaces(session.mesh) : new Map<number, number[]>();
  return (
    <Card
      glyph="region"
      title={regions.length === 0 ? 'Regions' : `Regions: ${regions.length}`}
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="Named sets of faces. Relaxing, pairing and evening out keep their borders."
    >
      {regions.map((r) => (
        <RegionRow key={r.id} session={session} region={r} faces={faces.get(r.id) ?? []} />
      ))}
      <TextBox label="Name of a new one" value={name} onChange={setName} />
      <Button isDisabled={none} onPress={make}>
        Make a region of the picked faces
      </Button>
      {none && <Note>Pick faces to make a region of them.</Note>}
      {!none && regions.length > 0 && (
        <Button onPress={() => session.run(setRegion, { region: 0 })}>Take the picked faces out</Button>
      )}
    </Card>
  );
}

type Becomes = 'hard' | 'crease' | 'soft' | 'guide';

function RegionRow({ session, region, faces }: { session: Session; region: Region; faces: number[] }): ReactNode {
  const [becomes, setBecomes] = useState<Becomes>('hard');
  const { regions } = session.settings;
  const change = (what: string, to: Region[]): void => session.changeSettings(what, { regions: to });
  const mark = (): void => {
    if (becomes === 'guide') borderAsGuide(session, region);
    else session.run(markBorder, { region: region.id, becomes }, EMPTY_SELECTION);
  };
  const forget = (): void => {
    if (faces.length > 0) session.run(setRegion, { region: 0 }, { ...EMPTY_SELECTION, faces });
    const { labels } = session.sculptRegions;
    const painted = [...labels.keys()].filter((v) => labels[v] === region.id);
    session.sculptRegions.put(`“${region.name}” forgotten`, painted, 0, { regions: regions.filter((r) => r.id !== region.id) }); // prettier-ignore
  };
  return (
    <>
      <Line>
        <i style={{ background: region.tint }} aria-hidden />
        <span>
          {region.name}: {count(faces.length)}
        </span>
        <Button
          aria-label={`Pick ${region.name}`}
          onPress={() => session.select(liveSelection(session.mesh, { ...EMPTY_SELECTION, faces }))}
        >
          Pick
        </Button>
        <Button
          aria-label={`Put the picked faces into ${region.name}`}
          isDisabled={session.selection.faces.length === 0}
          onPress={() => session.run(setRegion, { region: region.id })}
        >
          Add
        </Button>
        <Button aria-label={`Forget ${region.name}`} onPress={forget}>
          ×
        </Button>
      </Line>
      <ColourBox
        label={`Tint of ${region.name}`}
        value={region.tint}
        onChange={(tint) =>
          change(
            `“${region.name}” tinted`,
            regions.map((r) => (r.id === region.id ? { ...r, tint } : r)),
          )
        }
      />
      <Choice
        label={`Border of ${region.name}`}
        value={becomes}
        options={[
          ['hard', 'hard'],
          ['crease', 'creased'],
          ['guide', 'a guide'],
          ['soft', 'soft'],
        ]}
        onChange={setBecomes}
      />
      <Button onPress={mark}>Make it so</Button>
    </>
  );
}

/** The border of a region kept as guides, one for each run of it. */
function borderAsGuide(session: Session, region: Region): void {
  const { mesh } = session;
  const { guides } = session.settings;
  const chains = chainsOf(mesh, regionBorder(mesh, region.id));
  if (chains.length === 0)
    return session.say({
      kind: 'refused',
      text: 'This region has no border inside the mesh; put some faces into it first.',
    });
  const made = chains.map(({ vertices, closed }, i) => ({
    name: `Border of ${region.name}${chains.length > 1 ? ` ${i + 1}` : ''}`,
    points: vertices.map((v): [number, number, number] => [...mesh.point(v)]),
    closed,
  }));
  const rest = guides.filter((g) => !made.some((m) => m.name === g.name));
  session.changeSettings(`Border of “${region.name}” kept as a guide`, { guides: [...rest, ...made] });
}
