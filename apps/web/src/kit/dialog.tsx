import type { ReactNode } from 'react';
import * as Aria from 'react-aria-components';
import styled from 'styled-components';

const Backdrop = styled(Aria.ModalOverlay)`
  position: fixed;
  inset: 0;
  background: rgb(20 26 30 / 45%);
  display: flex;
  align-items: flex-start;
  justify-content: center;
  padding: 72px 16px 16px;
  z-index: 20;
`;
const Frame = styled(Aria.Modal)`
  width: 100%;
  max-height: calc(100vh - 96px);
  overflow: auto;
  background: ${(p) => p.theme.paper};
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 12px;
  box-shadow: 0 12px 40px rgb(0 0 0 / 30%);
`;
const Inner = styled(Aria.Dialog)`
  padding: 20px;
  outline: none;
  h2 {
    font-size: 16px;
    font-weight: 700;
    margin-bottom: 8px;
  }
`;
export const DialogButtons = styled.div`
  display: flex;
  justify-content: flex-end;
  gap: 8px;
  margin-top: 16px;
  flex-wrap: wrap;
`;

interface Props {
  title: string;
  isOpen: boolean;
  onClose: () => void;
  width?: number;
  /** whether it may be left without an answer */
  dismissable?: boolean;
  children: ReactNode;
}
/** A question or a list over the page; never over the model without being asked for. */
export function DialogBox({ title, isOpen, onClose, width = 460, dismissable = true, children }: Props): ReactNode {
  return (
    <Backdrop
      isOpen={isOpen}
      onOpenChange={(open) => !open && onClose()}
      isDismissable={dismissable}
      isKeyboardDismissDisabled={!dismissable}
    >
      <Frame style={{ maxWidth: width }}>
        <Inner aria-label={title}>
          <h2>{title}</h2>
          {children}
        </Inner>
      </Frame>
    </Backdrop>
  );
}
