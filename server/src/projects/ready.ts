import { invalid, type HttpProblem } from '../http/problem';
import type { ReadOutcome, ReadyDocument } from '../work/read-document';
import type { ProjectStore } from './store';

/** The project that was read; throws the problem where it is none. */
export function readyOr(outcome: ReadOutcome, noJson: (reason: string) => HttpProblem): ReadyDocument {
  if ('noJson' in outcome) throw noJson(outcome.noJson);
  if ('errors' in outcome) throw invalid(outcome.errors);
  return outcome.ready;
}

/** Keeps a new project. @returns the answer's body; the document goes out as it came from whoever checked it */
export async function createdProject(projects: ProjectStore, ready: ReadyDocument): Promise<string> {
  const made = await projects.create(ready);
  return `${JSON.stringify(made).slice(0, -1)},"document":${ready.json}}`;
}
