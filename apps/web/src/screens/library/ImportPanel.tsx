import { useState, type ReactNode } from 'react';
import type { ProjectCard } from '@half-loop/contract';
import { Button, DialogBox, DialogButtons } from '../../kit';
import { Progress } from '../Progress';
import { ImportForm } from './ImportForm';
import { useImport } from './useImport';

interface Props {
  file: File;
  /** what was dropped with it: a glTF may name its buffers */
  beside: File[];
  projects: ProjectCard[];
  onClose: () => void;
}

/** A dropped file on its way in: progress, then the report and its questions. Nothing is kept until it is brought in. */
export function ImportPanel({ file, beside, projects, onClose }: Props): ReactNode {
  const { state, cancel } = useImport(file, beside);
  const [busy, setBusy] = useState(false);
  const leave = (): void => {
    cancel();
    onClose();
  };
  return (
    <DialogBox title={`Bring in ${file.name}`} isOpen onClose={leave} width={820} dismissable={!busy}>
      {state.name === 'reading' && (
        <>
          <Progress label={state.stage} value={state.done} />
          <DialogButtons>
            <Button onPress={leave}>Cancel</Button>
          </DialogButtons>
        </>
      )}
      {state.name === 'failed' && (
        <>
          <p role="alert">{state.message}</p>
          <DialogButtons>
            <Button autoFocus onPress={leave}>
              Close
            </Button>
          </DialogButtons>
        </>
      )}
      {state.name === 'read' && (
        <ImportForm file={file} imported={state.imported} projects={projects} onBusy={setBusy} onCancel={leave} />
      )}
    </DialogBox>
  );
}
