import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useEffectEvent, useRef, useState, type ReactNode } from 'react';
import { Button, DialogBox, DialogButtons } from '../../kit';
import { messageOf, uploadArchive } from '../../session/api';
import { Progress } from '../Progress';

/** A project's archive on its way in: all of it arrives, or nothing. */
export function ArchivePanel({ file, onClose }: { file: File; onClose: () => void }): ReactNode {
  const [progress, setProgress] = useState(0);
  const [error, setError] = useState<string | null>(null);
  const abort = useRef<AbortController | null>(null);
  const queries = useQueryClient();
  const done = useEffectEvent(onClose);
  useEffect(() => {
    const controller = new AbortController();
    abort.current = controller;
    uploadArchive(file, setProgress, controller.signal)
      .then(async () => {
        await queries.invalidateQueries({ queryKey: ['library'] });
        done();
      })
      .catch((e: unknown) => {
        if (!controller.signal.aborted) setError(messageOf(e));
      });
    return () => controller.abort();
  }, [file, queries]);
  return (
    <DialogBox title={`Bring in ${file.name}`} isOpen onClose={onClose} dismissable={false}>
      {error === null ? (
        <Progress label={progress < 1 ? 'Sending the archive' : 'Unpacking and checking it'} value={progress * 0.5} />
      ) : (
        <p role="alert">{error}</p>
      )}
      <DialogButtons>
        <Button autoFocus onPress={onClose}>
          {error === null ? 'Cancel' : 'Close'}
        </Button>
      </DialogButtons>
    </DialogBox>
  );
}
