import { shallowEqual, useDispatch, useSelector } from 'react-redux';
import type { SessionState } from './session-slice';
import type { AppDispatch, RootState } from './store';

export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();

/**
 * Some fields of the session. Renders anew only when one of these changes: the playhead moves many times a second, and
 * most do not care.
 */
export function useSession<K extends keyof SessionState>(...fields: K[]): Pick<SessionState, K> {
  return useAppSelector(
    ({ session }) => Object.fromEntries(fields.map((field) => [field, session[field]])) as Pick<SessionState, K>,
    shallowEqual,
  );
}
