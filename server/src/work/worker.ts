import workerpool from 'workerpool';
import { watchLimits, within } from './limits';
import { probeFile } from './probe-file';
import { readDocument } from './read-document';
import { readProjectFile } from './read-project-file';

watchLimits();

/** What runs in a process of its own: work on files and bodies of any size that may have been made to do harm. */
workerpool.worker({
  probeFile: (path: string, bytes: number, limit: number) => within(limit, () => probeFile(path, bytes)),
  readDocument,
  readProjectFile,
  /** Asked so that there is a process before it is needed. */
  ready: () => true,
});
