import { deviceTitle } from '@ulvane/core/record';
import { Outlet, useNavigate, useParams } from 'react-router';
import { useHouse } from '../api/useHouse';
import { useMoveView } from '../api/useMove';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';
import { useKeys } from '../shell/useKeys';
import { CalledOffNotice } from './CallOff';
import { MoveContext } from './MoveContext';
import { Plate } from './Plate';
import { StageStrip } from './StageStrip';
import { stagePlaces } from './stagePlaces';

/** One move: plate, stage strip, and the stage that is open. */
export function MoveView() {
  const { reference = '' } = useParams();
  const navigate = useNavigate();
  const { data: view, error } = useMoveView(reference);
  const { house } = useHouse();
  const go = (to: string) => void navigate(`/moves/${reference}/${to}`);
  useKeys({
    ...Object.fromEntries(stagePlaces.map(({ path }, index) => [String(index + 1), () => go(path)])),
    l: () => go('log'),
  });
  if (!view || !house) {
    if (error !== undefined)
      return (
        <>
          <h1>{reference}</h1>
          <Problem error={error} />
        </>
      );
    return <Loading what={reference} />;
  }
  return (
    <MoveContext.Provider value={{ view, house }}>
      <title>{`${reference} · Ulvane`}</title>
      <h1 className="visually-hidden">
        {reference}: {deviceTitle(view.move.facts)}
      </h1>
      <Plate />
      <StageStrip />
      <CalledOffNotice />
      <Outlet />
    </MoveContext.Provider>
  );
}
