import type { ProjectSummary } from '@hastig/contract';
import { useCallback, useEffect, useState } from 'react';
import { api, projectArchiveAddress } from '../../store/api';
import { abandonedOutboxes } from '../../store/outbox';
import { saveFrom } from '../../ui/save-file';
import { sendUnsent } from '../../store/send-unsent';
import { copyName } from './copy-name';

/** All projects, and what is done with several of them. What fails is told, and the list is as the server has it again. */
export function useProjects() {
  const [projects, setProjects] = useState<ProjectSummary[] | null>(null);
  const [removed, setRemoved] = useState<ProjectSummary[]>([]);
  const [unsent, setUnsent] = useState<ReadonlySet<string>>(new Set());
  const [fault, setFault] = useState<string | null>(null);
  /** Those that were removed last, to be brought back by undo. */
  const [undoable, setUndoable] = useState<readonly ProjectSummary[]>([]);

  const refresh = useCallback((): Promise<void> => {
    // What could be sent is; what is left meets what others changed, or a server that is away.
    void sendUnsent()
      .then(() => abandonedOutboxes())
      .then((left) => setUnsent(new Set(left.map(({ project }) => project))));
    return Promise.all([api.listProjects(), api.removedProjects()]).then(
      ([there, gone]) => {
        setProjects(there);
        setRemoved(gone);
      },
      (error: Error) => setFault(error.message),
    );
  }, []);
  useEffect(() => void refresh(), [refresh]);

  const each = async (some: readonly string[], what: (id: string) => Promise<unknown>): Promise<string[]> => {
    const done: string[] = [];
    try {
      for (const id of some) {
        await what(id);
        done.push(id);
      }
    } catch (error) {
      setFault((error as Error).message);
    }
    await refresh();
    return done;
  };

  return {
    ...{ projects, removed, unsent, fault, setFault, undoable },
    copy: async (ids: readonly string[]): Promise<void> => {
      const taken = [...(projects ?? [])];
      await each(ids, async (id) => {
        const { document } = await api.getProject(id);
        const name = copyName(document.name, taken);
        await api.createProject({ document: { ...document, name } });
        taken.push({ ...taken[0]!, name });
      });
    },
    remove: async (ids: readonly string[]): Promise<void> => {
      const chosen = (projects ?? []).filter(({ id }) => ids.includes(id));
      const done = await each(ids, api.removeProject);
      setUndoable(chosen.filter(({ id }) => done.includes(id)));
    },
    restore: async (ids: readonly string[]): Promise<void> => {
      setUndoable([]);
      await each(ids, api.restoreProject);
    },
    purge: async (id: string): Promise<void> => {
      setUndoable((some) => some.filter((one) => one.id !== id));
      await each([id], api.purgeProject);
    },
    /** One archive after the other, with their media. */
    save: (ids: readonly string[]): void => {
      for (const id of ids) saveFrom(projectArchiveAddress(id));
    },
    forgetUndo: () => setUndoable([]),
  };
}
