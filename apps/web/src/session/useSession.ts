import { createContext, use, useCallback, useSyncExternalStore } from 'react';
import type { Topic } from './Emitter';
import type { Session } from './Session';

export const SessionContext = createContext<Session | null>(null);

/** The open session; renders again when one of the topics is told. Read values from the session itself. */
export function useSession(...topics: Topic[]): Session {
  const session = use(SessionContext);
  if (!session) throw new Error('no session is open here');
  const key = topics.join();
  const subscribe = useCallback(
    (changed: () => void) => {
      const offs = key
        .split(',')
        .filter(Boolean)
        .map((t) => session.events.on(t as Topic, changed));
      return () => offs.forEach((off) => off());
    },
    [session, key],
  );
  useSyncExternalStore(subscribe, () => topics.map((t) => session.events.version(t)).join());
  return session;
}
