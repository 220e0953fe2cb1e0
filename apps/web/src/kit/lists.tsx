import { GripVertical } from 'lucide-react';
import type { ReactNode } from 'react';
import * as Aria from 'react-aria-components';
import styled from 'styled-components';

export interface OrderedItem {
  id: string;
  text: string;
  /** what it is besides: a word or two */
  aside?: string;
  /** a spot of colour before it */
  tint?: string | null;
}
interface OrderListProps {
  label: string;
  items: readonly OrderedItem[];
  chosen: string;
  onChoose: (id: string) => void;
  /** brings an item to another place in the order */
  onMove: (id: string, to: number) => void;
}

const List = styled(Aria.GridList)`
  display: grid;
  gap: 2px;
  margin: 8px 0;
  .react-aria-DropIndicator[data-drop-target] {
    outline: 2px solid ${(p) => p.theme.glaze};
  }
`;
const Item = styled(Aria.GridListItem)`
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 3px 6px;
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 7px;
  background: ${(p) => p.theme.raised};
  cursor: pointer;
  span.text {
    flex: 1;
    overflow-wrap: anywhere;
  }
  span.aside {
    color: ${(p) => p.theme.mute};
  }
  i {
    width: 10px;
    height: 10px;
    border-radius: 3px;
    border: 1px solid ${(p) => p.theme.line};
  }
  button {
    display: flex;
    border: 0;
    padding: 0;
    background: none;
    color: ${(p) => p.theme.mute};
    cursor: grab;
  }
  &[data-selected] {
    background: ${(p) => p.theme.glazeSoft};
    border-color: ${(p) => p.theme.glaze};
    color: ${(p) => p.theme.glazeInk};
    font-weight: 600;
  }
  &[data-dragging] {
    opacity: 0.5;
  }
`;

/** A list with one item chosen, whose order is changed by dragging, with the pointer or by keys (Enter on a grip). */
export function OrderList({ label, items, chosen, onChoose, onMove }: OrderListProps): ReactNode {
  const { dragAndDropHooks } = Aria.useDragAndDrop({
    getItems: (keys) => [...keys].map((key) => ({ 'text/plain': String(key) })),
    onReorder({ keys, target }) {
      const [id] = [...keys].map(String);
      const rest = items.filter((item) => item.id !== id);
      const at = rest.findIndex((item) => item.id === String(target.key));
      onMove(id, target.dropPosition === 'after' ? at + 1 : at);
    },
  });
  return (
    <List
      aria-label={label}
      items={items}
      selectionMode="single"
      selectionBehavior="replace"
      disallowEmptySelection
      selectedKeys={[chosen]}
      onSelectionChange={(keys) => {
        const [id] = keys === 'all' ? [] : [...keys];
        if (id !== undefined) onChoose(String(id));
      }}
      dragAndDropHooks={dragAndDropHooks}
    >
      {(item) => {
        const { id, text, aside, tint } = item as OrderedItem;
        return (
          <Item id={id} textValue={text}>
            <Aria.Button slot="drag" aria-label={`Move ${text}`}>
              <GripVertical size={14} />
            </Aria.Button>
            {tint && <i style={{ background: tint }} aria-hidden />}
            <span className="text">{text}</span>
            {aside && <span className="aside num">{aside}</span>}
          </Item>
        );
      }}
    </List>
  );
}
