import { useEffect, useRef, type ReactNode } from 'react';
import styled from 'styled-components';
import { Kbd, ToolGlyph } from '../../kit';

const Closed = styled.button`
  display: flex;
  align-items: center;
  gap: 10px;
  width: 100%;
  min-height: 36px;
  padding: 6px 9px;
  font: inherit;
  color: inherit;
  background: none;
  border: 1px solid transparent;
  border-radius: 9px;
  cursor: pointer;
  text-align: left;
  .title {
    flex: 1;
  }
  &:hover {
    background: ${(p) => p.theme.paper2};
  }
`;
const Opened = styled.section`
  border: 1px solid ${(p) => p.theme.glaze};
  border-radius: 9px;
  background: ${(p) => p.theme.raised};
  padding: 8px 10px 10px;
  margin: 4px 0;
  .head {
    display: flex;
    align-items: center;
    gap: 10px;
    color: ${(p) => p.theme.glazeInk};
    font-weight: 700;
    min-height: 26px;
  }
  .head span {
    flex: 1;
  }
  .hint {
    color: ${(p) => p.theme.mute};
    font-size: 12px;
    margin: 4px 0;
  }
  .foot {
    position: sticky;
    /* over the column's own padding, too */
    bottom: -12px;
    z-index: 1;
    margin: 8px -10px -10px;
    padding: 8px 10px 10px;
    background: ${(p) => p.theme.raised};
    border-top: 1px solid ${(p) => p.theme.line};
    border-radius: 0 0 8px 8px;
  }
`;

const Aside = styled.em`
  font-style: normal;
  font-weight: 400;
  font-size: 12px;
  color: ${(p) => p.theme.mute};
`;

interface Props {
  glyph: string;
  title: string;
  keys?: string;
  /** how its work stands, beside the title */
  aside?: string;
  isOpen: boolean;
  onOpen?: () => void;
  hint?: string;
  /** what a long card does: it stays in sight at the lower edge of the column while the settings above it are scrolled */
  foot?: ReactNode;
  children?: ReactNode;
}
/** A tool or a set of settings in the left column: one line when closed; open, it holds its own settings. */
export function Card({ glyph, title, keys, aside, isOpen, onOpen, hint, foot, children }: Props): ReactNode {
  const own = useRef<HTMLElement>(null);
  const canClose = onOpen !== undefined;
  // a card opened by its key may lie far down the column; one that is always open asks for no attention
  useEffect(() => {
    if (isOpen && canClose) own.current?.scrollIntoView({ block: 'nearest' });
  }, [isOpen, canClose]);
  if (!isOpen)
    return (
      <Closed type="button" aria-expanded={false} onClick={onOpen}>
        <ToolGlyph name={glyph} />
        <span className="title">{title}</span>
        {aside && <Aside>{aside}</Aside>}
        {keys && <Kbd aria-hidden>{keys}</Kbd>}
      </Closed>
    );
  return (
    <Opened ref={own} aria-label={title}>
      <div className="head">
        <ToolGlyph name={glyph} />
        <span>{title}</span>
        {aside && <Aside>{aside}</Aside>}
        {keys && <Kbd aria-hidden>{keys}</Kbd>}
      </div>
      {hint && (
        <p className="hint" role="status">
          {hint}
        </p>
      )}
      {children}
      {foot && <div className="foot">{foot}</div>}
    </Opened>
  );
}
