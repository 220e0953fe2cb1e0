import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import styled from 'styled-components';
import { Button, Main, Note, PageFrame } from '../kit';
import { api, messageOf } from '../session/api';
import { count, STAGE_NAMES, timeText } from './format';

const List = styled.ul`
  display: grid;
  gap: 8px;
  margin-top: 16px;
  li {
    display: grid;
    grid-template-columns: 210px 1fr auto;
    gap: 16px;
    align-items: center;
    background: ${(p) => p.theme.raised};
    border: 1px solid ${(p) => p.theme.line};
    border-radius: 9px;
    padding: 8px 16px 8px 8px;
  }
  img {
    width: 210px;
    height: 140px;
    border-radius: 6px;
    object-fit: cover;
    background: ${(p) => p.theme.paper2};
    display: block;
  }
  h2 {
    font-weight: 700;
    font-size: 14px;
  }
`;

/** Saved versions, newest first; restoring one is a step in the history like any other. */
export default function Versions(): ReactNode {
  const { asset: id = '' } = useParams();
  const navigate = useNavigate();
  const asset = useQuery({ queryKey: ['asset', id], queryFn: () => api.asset(id) });
  const { data, error, isPending } = useQuery({ queryKey: ['versions', id], queryFn: () => api.versions(id) });
  return (
    <PageFrame>
      <Main>
        <h1>Versions of {asset.data?.name ?? '…'}</h1>
        <p>
          <Link to={`/a/${id}/${asset.data?.summary.stage ?? 'lay'}`}>Back to the workbench</Link>
        </p>
        {isPending && <Note role="status">Looking up the versions …</Note>}
        {error && <p role="alert">{messageOf(error)}</p>}
        {data?.versions.length === 0 && (
          <Note>No version saved yet. In the workbench, stop Ship, card Version, you save one under a name.</Note>
        )}
        <List>
          {data?.versions.map((v) => (
            <li key={v.id}>
              <img
                src={`/api/assets/${id}/versions/${v.id}/thumbnail`}
                alt={`Version ${v.name}`}
                width={210}
                height={140}
                loading="lazy"
              />
              <div>
                <h2>{v.name}</h2>
                <Note>
                  <span className="num">
                    {count(v.summary.faces)} of {count(v.summary.budget)}
                  </span>{' '}
                  faces · {STAGE_NAMES[v.summary.stage]} · {timeText(v.createdAt)}
                </Note>
              </div>
              <Button onPress={() => void navigate(`/a/${id}/${v.summary.stage}?restore=${v.id}`)}>
                Restore “{v.name}”
              </Button>
            </li>
          ))}
        </List>
      </Main>
    </PageFrame>
  );
}
