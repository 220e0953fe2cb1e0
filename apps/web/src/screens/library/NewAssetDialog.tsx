import { useMutation } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { DEFAULT_SETTINGS, UNIT_NAMES, type ProjectCard, type Unit } from '@half-loop/contract';
import { Button, Choice, DialogBox, DialogButtons, MainButton, Note, TextBox } from '../../kit';
import { api, messageOf } from '../../session/api';
import { uploadNewDocument } from './newDocument';

/** An asset without a sculpt: points stick to a work plane. */
export function NewAssetDialog({ project, onClose }: { project: ProjectCard; onClose: () => void }): ReactNode {
  const [name, setName] = useState('');
  const [unit, setUnit] = useState<Unit>('cm');
  const navigate = useNavigate();
  const make = useMutation({
    mutationFn: async () => {
      const document = await uploadNewDocument({ ...DEFAULT_SETTINGS, unit });
      return api.createAsset({ projectId: project.id, name, sculpt: null, original: null, document });
    },
    onSuccess: (asset) => void navigate(`/a/${asset.id}/lay`),
  });
  return (
    <DialogBox title={`Empty asset in ${project.name}`} isOpen onClose={onClose}>
      <Note>It starts without a sculpt: points stick to a work plane, front, side or top.</Note>
      <TextBox label="Name" value={name} onChange={setName} autoFocus />
      <Choice label="Unit" value={unit} onChange={setUnit} options={UNIT_NAMES.map((u) => [u, u] as const)} />
      {make.error && <p role="alert">{messageOf(make.error)}</p>}
      <DialogButtons>
        <Button onPress={onClose}>Cancel</Button>
        <MainButton isDisabled={name.trim() === '' || make.isPending} onPress={() => make.mutate()}>
          Make the asset
        </MainButton>
      </DialogButtons>
    </DialogBox>
  );
}
