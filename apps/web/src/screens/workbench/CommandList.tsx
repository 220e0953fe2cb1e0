import { useState, type ReactNode } from 'react';
import * as Aria from 'react-aria-components';
import styled from 'styled-components';
import { DialogBox, Kbd } from '../../kit';
import type { Commands } from './useCommands';

const Search = styled(Aria.SearchField)`
  input {
    width: 100%;
    font: inherit;
    padding: 8px 10px;
    border-radius: 9px;
    border: 1px solid ${(p) => p.theme.line};
    background: ${(p) => p.theme.raised};
    color: ${(p) => p.theme.ink};
  }
`;
const Scroll = styled.div`
  margin-top: 8px;
  max-height: 50vh;
  overflow: auto;
`;
const List = styled(Aria.Menu)`
  outline: none;
  .empty {
    padding: 8px;
    color: ${(p) => p.theme.mute};
  }
`;
const Item = styled(Aria.MenuItem)`
  display: flex;
  justify-content: space-between;
  padding: 6px 10px;
  border-radius: 7px;
  cursor: pointer;
  outline-offset: -2px;
  &[data-focused] {
    background: ${(p) => p.theme.glazeSoft};
    color: ${(p) => p.theme.ink};
  }
`;

/** Everything that can be done, searchable by its words. */
export function CommandList({ commands }: { commands: Commands }): ReactNode {
  const { contains } = Aria.useFilter({ sensitivity: 'base' });
  const [text, setText] = useState('');
  const close = (): void => {
    setText('');
    commands.close();
  };
  const run = (id: Aria.Key): void => {
    close();
    commands.list.find((c) => c.id === id)?.run();
  };
  return (
    <DialogBox title="Commands" isOpen={commands.shown === 'list'} onClose={close} width={520}>
      <Aria.Autocomplete filter={contains} inputValue={text} onInputChange={setText}>
        <Search aria-label="Search commands" autoFocus>
          <Aria.Input placeholder="What do you want to do?" />
        </Search>
        <Scroll tabIndex={0} role="group" aria-label="Matching commands">
          <List
            items={commands.list}
            onAction={run}
            aria-label="Commands"
            renderEmptyState={() => <div className="empty">No command has these words.</div>}
          >
            {(item) => {
              const { id, title, keys } = item as Commands['list'][number];
              return (
                <Item id={id} textValue={title}>
                  <span>{title}</span>
                  {keys && <Kbd>{keys}</Kbd>}
                </Item>
              );
            }}
          </List>
        </Scroll>
      </Aria.Autocomplete>
    </DialogBox>
  );
}
