import { createContext, use, useEffect, useMemo, useState, type ReactNode } from 'react';
import { ThemeProvider } from 'styled-components';
import { NIGHT_KILN, SLIP, type ThemeChoice } from './theme';
import { GlobalStyle } from './GlobalStyle';

const KEY = 'half-loop-theme';
interface ThemeControl {
  choice: ThemeChoice;
  choose: (choice: ThemeChoice) => void;
}
const Control = createContext<ThemeControl>({ choice: 'slip', choose: () => undefined });
export const useThemeControl = (): ThemeControl => use(Control);

/** Slip unless told otherwise; 'system' follows the machine. */
export function ThemeRoot({ children }: { children: ReactNode }): ReactNode {
  const [choice, setChoice] = useState<ThemeChoice>(() => (localStorage.getItem(KEY) as ThemeChoice | null) ?? 'slip');
  const [isDark, setDark] = useState(() => matchMedia('(prefers-color-scheme: dark)').matches);
  useEffect(() => {
    const query = matchMedia('(prefers-color-scheme: dark)');
    const listen = (): void => setDark(query.matches);
    query.addEventListener('change', listen);
    return () => query.removeEventListener('change', listen);
  }, []);
  const control = useMemo(
    () => ({
      choice,
      choose: (next: ThemeChoice) => {
        localStorage.setItem(KEY, next);
        setChoice(next);
      },
    }),
    [choice],
  );
  const night = choice === 'night' || (choice === 'system' && isDark);
  return (
    <Control value={control}>
      <ThemeProvider theme={night ? NIGHT_KILN : SLIP}>
        <GlobalStyle />
        {children}
      </ThemeProvider>
    </Control>
  );
}
