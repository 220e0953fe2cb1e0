import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import type { AssetCard } from '@half-loop/contract';
import { Button, DangerButton, DialogBox, DialogButtons, QuietButton } from '../../kit';
import { api, messageOf } from '../../session/api';
import { count, STAGE_NAMES, timeText } from '../format';

const Tile = styled.li`
  background: ${(p) => p.theme.raised};
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 12px;
  overflow: hidden;
  position: relative;
  > a {
    color: inherit;
    text-decoration: none;
    display: block;
    border-radius: 12px;
  }
  &:hover {
    border-color: ${(p) => p.theme.glaze};
  }
  img {
    display: block;
    width: 100%;
    height: auto;
    aspect-ratio: 3 / 2;
    background: ${(p) => p.theme.paper2};
  }
  .text {
    padding: 10px 12px 12px;
    display: grid;
    gap: 3px;
  }
  h3 {
    font-weight: 700;
    font-size: 14px;
  }
  .line {
    display: flex;
    justify-content: space-between;
    font-size: 12px;
    color: ${(p) => p.theme.mute};
  }
  .remove {
    position: absolute;
    right: 6px;
    top: 6px;
    background: ${(p) => p.theme.raised};
  }
`;
const Budget = styled.div<{ $share: number }>`
  height: 5px;
  border-radius: 3px;
  background: ${(p) => p.theme.line};
  overflow: hidden;
  &::after {
    content: '';
    display: block;
    height: 100%;
    width: ${(p) => Math.min(100, 100 * p.$share)}%;
    background: ${(p) => (p.$share > 1 ? p.theme.kiln : p.theme.glaze)};
  }
`;

/** One asset: picture, stage reached, faces against budget, what needs a look, last saved. */
export function AssetTile({ asset }: { asset: AssetCard }): ReactNode {
  const { id, name, revision, summary, savedAt } = asset;
  const [asking, setAsking] = useState(false);
  return (
    <Tile>
      <Link to={`/a/${id}/${summary.stage}`} aria-label={`Open ${name}`}>
        <img
          src={`/api/assets/${id}/thumbnail?revision=${revision}`}
          alt={`${name}, as last saved`}
          width={480}
          height={320}
        />
        <div className="text">
          <h3>{name}</h3>
          <div className="line">
            <span>{STAGE_NAMES[summary.stage]}</span>
            <span className="num">
              {count(summary.faces)} of {count(summary.budget)} faces
            </span>
          </div>
          <Budget $share={summary.faces / summary.budget} />
          <div className="line">
            <span>
              {summary.needsALook === 0 ? 'Nothing needs a look' : `${count(summary.needsALook)} need a look`}
            </span>
            <span>Saved {timeText(savedAt)}</span>
          </div>
        </div>
      </Link>
      <QuietButton className="remove" aria-label={`Delete ${name}`} onPress={() => setAsking(true)}>
        <Trash2 size={15} aria-hidden />
      </QuietButton>
      {asking && <RemoveDialog asset={asset} onClose={() => setAsking(false)} />}
    </Tile>
  );
}

function RemoveDialog({ asset, onClose }: { asset: AssetCard; onClose: () => void }): ReactNode {
  const queries = useQueryClient();
  const remove = useMutation({
    mutationFn: () => api.removeAsset(asset.id),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ['library'] });
      onClose();
    },
  });
  return (
    <DialogBox title={`Delete ${asset.name}?`} isOpen onClose={onClose}>
      <p>The asset, its low-poly and all its versions go for good. This cannot be undone.</p>
      {remove.error && <p role="alert">{messageOf(remove.error)}</p>}
      <DialogButtons>
        <Button autoFocus onPress={onClose}>
          Keep it
        </Button>
        <DangerButton onPress={() => remove.mutate()}>Delete the asset</DangerButton>
      </DialogButtons>
    </DialogBox>
  );
}
