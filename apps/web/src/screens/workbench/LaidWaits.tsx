import type { ReactNode } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import { useSession } from '../../session';
import { useLaying } from './useLaying';

const Waits = styled.p`
  margin-bottom: 14px;
  padding: 8px 10px;
  border-radius: 9px;
  background: ${(p) => p.theme.glazeSoft};
  a {
    color: ${(p) => p.theme.glazeInk};
  }
`;

/** Away from its card: how far Lay all is, or that what came of it is neither kept nor dropped yet. */
export function LaidWaits(): ReactNode {
  const { asset } = useSession();
  const { ways, under } = useLaying();
  const ended = ways.filter(({ state }) => state === 'done' || state === 'refused');
  if (!under && ended.length === 0) return null;
  const [text, act] = under
    ? [`Lay all is at ${Math.round(100 * under.done)} %.`, 'Watch it']
    : ended.some(({ state }) => state === 'done')
      ? ['What Lay all made is not in this asset yet.', 'Look at it, keep it or drop it']
      : ['Lay all was refused.', 'See why'];
  return (
    <Waits role={under ? undefined : 'status'}>
      {text} <Link to={`/a/${asset.id}/lay#lay-all`}>{act}</Link>
    </Waits>
  );
}
