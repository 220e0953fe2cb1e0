import type { ReactNode } from 'react';
import styled from 'styled-components';
import { Choice, Heading, Kbd, Main, PageFrame, useThemeControl } from '../kit';
import { KEY_LIST } from './keys';

const Keys = styled.dl`
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 6px 16px;
  max-width: 640px;
`;

export function KeyTable(): ReactNode {
  return (
    <Keys>
      {KEY_LIST.map(([keys, what]) => (
        <div key={keys} style={{ display: 'contents' }}>
          <dt>
            <Kbd>{keys}</Kbd>
          </dt>
          <dd>{what}</dd>
        </div>
      ))}
    </Keys>
  );
}

export function SettingsScreen(): ReactNode {
  const { choice, choose } = useThemeControl();
  return (
    <PageFrame>
      <Main>
        <h1>Settings</h1>
        <Choice
          label="Theme"
          value={choice}
          onChange={choose}
          options={[
            ['slip', 'Slip (light)'],
            ['night', 'Night kiln (dark)'],
            ['system', 'As this machine'],
          ]}
        />
        <Heading>Keys</Heading>
        <KeyTable />
      </Main>
    </PageFrame>
  );
}
