import { useState, type ReactNode } from 'react';
import { Button, DialogBox, DialogButtons, MainButton } from '../../kit';
import { messageOf, settleConflict, useSession } from '../../session';

/** Two saves met: one becomes the asset, the other a version. Neither is lost. */
export function ConflictDialog(): ReactNode {
  const session = useSession('save');
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const isOpen = session.autoSave.state.kind === 'conflict';
  const settle = async (keep: 'mine' | 'theirs'): Promise<void> => {
    setBusy(true);
    setError(null);
    try {
      await settleConflict(session, keep);
    } catch (e) {
      setError(messageOf(e));
    }
    setBusy(false);
  };
  return (
    <DialogBox
      title="This asset was also saved from somewhere else"
      isOpen={isOpen}
      onClose={() => undefined}
      dismissable={false}
    >
      <p>
        Both states are kept, whichever you go on with: the other one becomes a version that you can look at and
        restore.
      </p>
      {error && <p role="alert">{error}</p>}
      <DialogButtons>
        <Button isDisabled={busy} onPress={() => void settle('theirs')}>
          Go on with the other save
        </Button>
        <MainButton isDisabled={busy} onPress={() => void settle('mine')}>
          Go on with what is here
        </MainButton>
      </DialogButtons>
    </DialogBox>
  );
}
