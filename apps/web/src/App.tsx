import { createBrowserRouter, RouterProvider } from 'react-router';
import { SWRConfig } from 'swr';
import { isProblem, passesByItself } from './api/call';
import { Opening } from './shell/Opening';
import { Shell } from './Shell';
import { RouteFault } from './shell/RouteFault';

/** Every view is a script of its own, fetched when it is first opened. */
const router = createBrowserRouter([
  {
    path: '/set-up',
    HydrateFallback: Opening,
    lazy: async () => ({ Component: (await import('./signIn/SetUp')).SetUp }),
  },
  {
    path: '/new-password',
    HydrateFallback: Opening,
    lazy: async () => ({ Component: (await import('./signIn/NewPassword')).NewPassword }),
  },
  {
    path: '/',
    Component: Shell,
    HydrateFallback: Opening,
    errorElement: <RouteFault />,
    children: [
      { index: true, lazy: async () => ({ Component: (await import('./today/TodayView')).TodayView }) },
      { path: 'fleet', lazy: async () => ({ Component: (await import('./fleet/FleetView')).FleetView }) },
      {
        path: 'moves/:reference',
        lazy: async () => ({ Component: (await import('./move/MoveView')).MoveView }),
        children: [
          {
            index: true,
            lazy: async () => ({ Component: (await import('./move/ToPresentStage')).ToPresentStage }),
          },
          {
            path: 'survey',
            lazy: async () => ({ Component: (await import('./move/survey/SurveyStage')).SurveyStage }),
          },
          {
            path: 'decide',
            lazy: async () => ({ Component: (await import('./move/decide/DecideStage')).DecideStage }),
          },
          {
            path: 'save',
            lazy: async () => ({ Component: (await import('./move/save/SaveStage')).SaveStage }),
          },
          {
            path: 'prepare',
            lazy: async () => ({ Component: (await import('./move/prepare/PrepareStage')).PrepareStage }),
          },
          {
            path: 'cross',
            lazy: async () => ({ Component: (await import('./move/runbook/RunbookStage')).RunbookStage }),
          },
          {
            path: 'settle',
            lazy: async () => ({ Component: (await import('./move/runbook/RunbookStage')).RunbookStage }),
          },
          {
            path: 'hand-over',
            lazy: async () => ({ Component: (await import('./move/handOver/HandOverStage')).HandOverStage }),
          },
          {
            path: 'disk',
            lazy: async () => ({ Component: (await import('./move/disk/DiskStage')).DiskStage }),
          },
          {
            path: 'answers',
            lazy: async () => ({
              Component: (await import('./move/answers/AnswerSheetView')).AnswerSheetView,
            }),
          },
          {
            path: 'trouble/:stepId/:sign',
            lazy: async () => ({
              Component: (await import('./move/trouble/TroubleView')).TroubleView,
            }),
          },
          {
            path: 'log',
            lazy: async () => ({ Component: (await import('./move/record/RecordView')).RecordView }),
          },
        ],
      },
      {
        path: 'catalogue',
        lazy: async () => ({ Component: (await import('./catalogue/CatalogueView')).CatalogueView }),
      },
      {
        path: 'shelf',
        lazy: async () => ({ Component: (await import('./shelf/ShelfView')).ShelfView }),
      },
      {
        path: 'drives',
        lazy: async () => ({ Component: (await import('./drives/DrivesView')).DrivesView }),
      },
      { path: 'disks', lazy: async () => ({ Component: (await import('./disk/DiskBench')).DiskBench }) },
      {
        path: 'account',
        lazy: async () => ({ Component: (await import('./account/AccountView')).AccountView }),
      },
      { path: 'house', lazy: async () => ({ Component: (await import('./house/HouseView')).HouseView }) },
      { path: '*', lazy: async () => ({ Component: (await import('./shell/NowhereView')).NowhereView }) },
    ],
  },
]);

export function App() {
  return (
    <SWRConfig
      value={{
        revalidateOnFocus: true,
        dedupingInterval: 1000,
        // A refusal is an answer: asking again gives the same one, unless it was for the moment only.
        shouldRetryOnError: (error: unknown) => !isProblem(error) || passesByItself(error),
        errorRetryInterval: 1000,
      }}
    >
      <RouterProvider router={router} />
    </SWRConfig>
  );
}
