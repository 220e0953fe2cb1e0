import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Main, MainButton, Note, PageFrame, TextBox } from '../kit';
import { api, messageOf } from '../session/api';

/** Asks for the access code once, where the server wants one; behind it everything is as ever. */
export function AccessGate({ children }: { children: ReactNode }): ReactNode {
  const { data } = useQuery({ queryKey: ['access'], queryFn: api.access, staleTime: Infinity });
  // a server that cannot be reached is the screens' own matter: they say so and keep the work
  if (data?.needed && !data.given) return <AskForCode />;
  return children;
}

function AskForCode(): ReactNode {
  const [code, setCode] = useState('');
  const queries = useQueryClient();
  const give = useMutation({
    mutationFn: () => api.giveAccess(code),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['access'] }),
  });
  const submit = (e: FormEvent): void => {
    e.preventDefault();
    give.mutate();
  };
  return (
    <PageFrame>
      <Main>
        <h1>Access code</h1>
        <Note>
          This Half Loop runs on another machine. Type the code that stands where it was started; once is enough.
        </Note>
        <form onSubmit={submit} style={{ maxWidth: 360, marginTop: 16 }}>
          <TextBox label="Access code" value={code} onChange={setCode} autoFocus />
          {give.error && <p role="alert">{messageOf(give.error)}</p>}
          <MainButton type="submit" isDisabled={code.trim() === '' || give.isPending}>
            Open Half Loop
          </MainButton>
        </form>
      </Main>
    </PageFrame>
  );
}
