import type { ReactNode } from 'react';
import styled from 'styled-components';
import { distanceColour, scaleColour, MODEL_COLOURS, WARP_RANGE, type Srgb } from '../../viewport';
import { useSession } from '../../session';
import { lengthText } from '../format';
import { useBench, useView } from './Bench';

const Legend = styled.div`
  position: absolute;
  bottom: 60px;
  left: 50%;
  transform: translateX(-50%);
  background: ${(p) => p.theme.paper};
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 9px;
  padding: 6px 10px;
  font-size: 12px;
  white-space: nowrap;
  pointer-events: none;
  .scale {
    display: flex;
    width: 280px;
    height: 10px;
    border-radius: 3px;
    overflow: hidden;
  }
  .scale i {
    flex: 1;
  }
  i.line {
    display: inline-block;
    width: 18px;
    height: 0;
    border-top: 3px solid;
    margin: 0 5px 3px 0;
  }
  i.line + span {
    margin-right: 14px;
  }
  .ends {
    display: flex;
    justify-content: space-between;
    margin-top: 3px;
  }
`;

const css = (rgb: Srgb): string => `rgb(${rgb.map((x) => Math.round(x * 255)).join(' ')})`;

/** What the lens in hand means, over the lenses. */
export function LensLegend(): ReactNode {
  switch (useView().lens) {
    case 'form':
      return null;
    case 'loops':
      return <Legend>Each loop its own tint; a shape where a loop stops at a pole</Legend>;
    case 'poles':
      return <Legend>Inner points with three edges (triangle), five (pentagon), six and more (hexagon)</Legend>;
    case 'distance':
      return <DistanceLegend />;
    case 'density':
      return <DensityLegend />;
    case 'warp':
      return (
        <Scale title="How far a face bends out of its plane" colour={scaleColour}>
          {['flat', `${WARP_RANGE / 2}`, `${WARP_RANGE} of an edge`]}
        </Scale>
      );
    case 'outline':
      return <OutlineLegend />;
  }
}

/** A bar of colours from the least to the most, and what its ends and middle stand for. */
function Scale({
  title,
  colour,
  children,
}: {
  title: string;
  colour: (share: number) => Srgb;
  children: ReactNode[];
}): ReactNode {
  return (
    <Legend>
      {title}
      <div className="scale" aria-hidden>
        {Array.from({ length: 28 }, (_, i) => (
          <i key={i} style={{ background: css(colour(i / 27)) }} />
        ))}
      </div>
      <div className="ends num">
        {children.map((text, i) => (
          <span key={i}>{text}</span>
        ))}
      </div>
    </Legend>
  );
}

function DensityLegend(): ReactNode {
  const middle = useBench().scene?.paint.middleSide ?? 1;
  const { unit } = useSession('settings').settings;
  return (
    <Scale title="Size of a face, as the side of a square" colour={scaleColour}>
      {[middle / 4, middle, middle * 4].map((size) => lengthText(size, unit))}
    </Scale>
  );
}

function DistanceLegend(): ReactNode {
  const { surface, settings } = useSession('distance', 'settings');
  const range = useBench().scene?.paint.distanceRange() ?? 1;
  if (!surface) return <Legend>This asset has no sculpt to measure from.</Legend>;
  const far = lengthText(range, settings.unit);
  return (
    <Scale title="The worst place of each face" colour={(share) => distanceColour(2 * share - 1)}>
      {[`inside ${far}`, '0', `outside ${far}`]}
    </Scale>
  );
}

function OutlineLegend(): ReactNode {
  const { forms, session } = useBench();
  const outlined = forms.outlined();
  if (!outlined)
    return (
      <Legend>There is no sculpt to compare with; keep a copy under “Hold the form” and its outline is drawn.</Legend>
    );
  return (
    <Legend>
      <i className="line" style={{ color: css(MODEL_COLOURS.ink) }} />
      <span>outline of {outlined === session.surface ? 'the sculpt' : 'the kept copy'}</span>
      <i className="line" style={{ color: css(MODEL_COLOURS.picked) }} />
      <span>of the low-poly</span>
      <i className="line" style={{ color: css(MODEL_COLOURS.pointed), borderTopWidth: 9, marginBottom: 0 }} />
      <span>between them</span>
    </Legend>
  );
}
