import type { ReactNode } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';

export const Heading = styled.h2`
  font-size: 12px;
  font-weight: 600;
  color: ${(p) => p.theme.mute};
  margin: 16px 0 4px;
`;
export const Note = styled.p`
  color: ${(p) => p.theme.mute};
  font-size: 12px;
  margin: 4px 0;
`;
export const Row = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  min-height: 24px;
  .num {
    font-size: 12px;
  }
`;
const Bar = styled.header`
  height: 52px;
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  padding: 0 16px;
  border-bottom: 1px solid ${(p) => p.theme.line};
  a {
    color: inherit;
    text-decoration: none;
  }
  nav {
    display: flex;
    gap: 16px;
  }
  .mark {
    font-weight: 700;
    display: flex;
    align-items: center;
    gap: 8px;
  }
`;
const Page = styled.div`
  height: 100%;
  overflow: auto;
`;
/** Buttons that belong together; they break into rows where it is narrow. */
export const Buttons = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;

export const Main = styled.main`
  max-width: 1180px;
  margin: 0 auto;
  padding: 24px 16px 64px;
  h1 {
    font-size: 20px;
    font-weight: 700;
  }
`;

/** The frame of every screen but the workbench. */
export function PageFrame({ children }: { children: ReactNode }): ReactNode {
  return (
    <Page>
      <Bar>
        <Link to="/" className="mark">
          <svg width="22" height="14" viewBox="0 0 22 14" aria-hidden>
            <path d="M2 11C5 1 17 1 20 11" fill="none" stroke="currentColor" strokeWidth="2.4" strokeLinecap="round" />
          </svg>
          Half Loop
        </Link>
        <nav aria-label="Screens">
          <Link to="/">Library</Link>
          <Link to="/jobs">Jobs</Link>
          <Link to="/settings">Settings</Link>
        </nav>
      </Bar>
      {children}
    </Page>
  );
}
