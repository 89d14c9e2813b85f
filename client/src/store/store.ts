import { jobsReducer } from './jobs-slice';
import { combineReducers, configureStore, createListenerMiddleware } from '@reduxjs/toolkit';
import { compareReducer } from './compare-slice';
import { derivedReducer } from './derived-slice';
import { pathReducer } from './path-slice';
import { projectReducer } from './project-slice';
import { renderReducer } from './render-slice';
import { sessionReducer } from './session-slice';
import { stageReducer } from './stage-slice';
import { uploadsReducer } from './uploads-slice';

const reducer = combineReducers({
  jobs: jobsReducer,
  compare: compareReducer,
  derived: derivedReducer,
  path: pathReducer,
  project: projectReducer,
  render: renderReducer,
  session: sessionReducer,
  stage: stageReducer,
  uploads: uploadsReducer,
});

export type RootState = ReturnType<typeof reducer>;

/** A store with what listens to it apart, so that tests can have stores of their own. */
export function makeStore() {
  const listeners = createListenerMiddleware();
  const store = configureStore({
    reducer,
    // Documents may be large and are only ever replaced; walking them on every action would cost more than they do.
    middleware: (defaults) =>
      defaults({ serializableCheck: false, immutableCheck: false }).prepend(listeners.middleware),
  });
  return { store, listeners };
}

export type AppStore = ReturnType<typeof makeStore>['store'];
export type AppListeners = ReturnType<typeof makeStore>['listeners'];
export type AppDispatch = AppStore['dispatch'];
export type AppThunk<T = void> = (dispatch: AppDispatch, getState: () => RootState) => T;
