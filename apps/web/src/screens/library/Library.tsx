import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { FileDown, FileUp, Plus } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { DropZone, FileTrigger, type DropItem } from 'react-aria-components';
import styled from 'styled-components';
import type { ProjectCard } from '@half-loop/contract';
import { Button, DialogBox, DialogButtons, Main, MainButton, Note, PageFrame, TextBox } from '../../kit';
import { api, messageOf } from '../../session/api';
import { AssetTile } from './AssetTile';
import { ArchivePanel } from './ArchivePanel';
import { ImportPanel } from './ImportPanel';
import { NewAssetDialog } from './NewAssetDialog';

/** The whole screen takes a file; the dashed place says so and lights up. */
const Drop = styled(DropZone)`
  min-height: calc(100% - 52px);
  .place {
    border: 2px dashed ${(p) => p.theme.line};
    border-radius: 12px;
    padding: 16px;
    margin: 16px 0;
    display: flex;
    align-items: center;
    justify-content: center;
    gap: 12px;
    flex-wrap: wrap;
  }
  &[data-drop-target] .place {
    border-color: ${(p) => p.theme.glaze};
    background: ${(p) => p.theme.glazeSoft};
  }
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  margin-top: 24px;
  h2 {
    font-size: 16px;
    font-weight: 700;
  }
`;
const HeadButtons = styled.div`
  display: flex;
  align-items: center;
  gap: 16px;
  a {
    display: inline-flex;
    align-items: center;
    gap: 6px;
  }
`;
const Grid = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: 16px;
  margin-top: 12px;
`;
const ENDINGS = '.obj,.ply,.stl,.off,.glb,.gltf,.bin,.zip';

const isArchive = (file: File): boolean => file.name.toLowerCase().endsWith('.zip');

interface Picked {
  file: File;
  beside: File[];
}
/** The sculpt among files dropped together; the others lie beside it. Held in one state, so that neither changes alone. */
function pick(files: File[]): Picked | null {
  const endings = ENDINGS.split(',').filter((e) => e !== '.bin');
  const file = files.find((f) => endings.some((e) => f.name.toLowerCase().endsWith(e))) ?? files[0];
  return file ? { file, beside: files.filter((f) => f !== file) } : null;
}

export function Library(): ReactNode {
  const { data, error, isPending, refetch } = useQuery({ queryKey: ['library'], queryFn: api.library });
  const [files, setFiles] = useState<Picked | null>(null);
  const [newIn, setNewIn] = useState<ProjectCard | null>(null);
  const [naming, setNaming] = useState(false);
  const take = (list: Iterable<File> | null): void => setFiles(pick([...(list ?? [])]));
  const drop = async (items: DropItem[]): Promise<void> =>
    take(await Promise.all(items.flatMap((item) => (item.kind === 'file' ? [item.getFile()] : []))));
  const projects = data?.projects ?? [];
  return (
    <PageFrame>
      <Drop onDrop={(e) => void drop(e.items)} aria-label="Library: a sculpt can be dropped anywhere">
        <Main>
          <Head style={{ marginTop: 0 }}>
            <h1>Library</h1>
            <Button onPress={() => setNaming(true)}>
              <Plus size={16} aria-hidden /> New project
            </Button>
          </Head>
          <div className="place">
            <FileUp size={20} aria-hidden />
            <span>
              Drop a sculpt here: OBJ, PLY, STL, OFF, GLB or glTF with its files, up to 1 GiB; or a project as ZIP
            </span>
            <FileTrigger acceptedFileTypes={ENDINGS.split(',')} allowsMultiple onSelect={take}>
              <Button>Choose a file</Button>
            </FileTrigger>
          </div>
          {isPending && <Note role="status">Looking up your projects …</Note>}
          {error && (
            <div role="alert">
              <p>{messageOf(error)}</p>
              <Button onPress={() => void refetch()}>Try again</Button>
            </div>
          )}
          {data && projects.length === 0 && (
            <Note>No projects yet. Drop a sculpt above and name a project for it, or make an empty one.</Note>
          )}
          {projects.map((project) => (
            <div key={project.id} role="group" aria-label={project.name}>
              <Head>
                <h2>{project.name}</h2>
                <HeadButtons>
                  <a
                    href={`/api/projects/${project.id}/archive`}
                    download
                    aria-label={`Take out ${project.name} as ZIP`}
                  >
                    <FileDown size={16} aria-hidden /> Take out as ZIP
                  </a>
                  <Button onPress={() => setNewIn(project)}>
                    <Plus size={16} aria-hidden /> Empty asset
                  </Button>
                </HeadButtons>
              </Head>
              {project.assets.length === 0 && <Note>No assets in this project yet.</Note>}
              <Grid>
                {project.assets.map((asset) => (
                  <AssetTile key={asset.id} asset={asset} />
                ))}
              </Grid>
            </div>
          ))}
        </Main>
      </Drop>
      {files && !isArchive(files.file) && <ImportPanel {...files} projects={projects} onClose={() => setFiles(null)} />}
      {files && isArchive(files.file) && <ArchivePanel file={files.file} onClose={() => setFiles(null)} />}
      {newIn && <NewAssetDialog project={newIn} onClose={() => setNewIn(null)} />}
      {naming && <NewProjectDialog onClose={() => setNaming(false)} />}
    </PageFrame>
  );
}

function NewProjectDialog({ onClose }: { onClose: () => void }): ReactNode {
  const [name, setName] = useState('');
  const queries = useQueryClient();
  const make = useMutation({
    mutationFn: () => api.createProject(name),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ['library'] });
      onClose();
    },
  });
  return (
    <DialogBox title="New project" isOpen onClose={onClose}>
      <TextBox label="Name" value={name} onChange={setName} autoFocus />
      {make.error && <p role="alert">{messageOf(make.error)}</p>}
      <DialogButtons>
        <Button onPress={onClose}>Cancel</Button>
        <MainButton isDisabled={name.trim() === ''} onPress={() => make.mutate()}>
          Make the project
        </MainButton>
      </DialogButtons>
    </DialogBox>
  );
}
