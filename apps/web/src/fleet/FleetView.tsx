import { printCount } from '@ulvane/core/quantity';
import { api, MoveListQuerySchema, type MoveListQuery } from '@ulvane/contract';
import { useMemo, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { NavLink, useSearchParams } from 'react-router';
import { call } from '../api/call';
import { useHouse } from '../api/useHouse';
import { useMay } from '../api/useSession';
import { ReassessmentNote } from '../catalogue/ReassessmentNote';
import { Loading } from '../shell/Loading';
import { Problem } from '../shell/Problem';
import { ChooseForMany } from './ChooseForMany';
import { DeviceList } from './DeviceList';
import { FitView } from './fit/FitView';
import { FleetFilters } from './FleetFilters';
import { Groups } from './Groups';
import { ImportList } from './ImportList';
import { ImportMove } from './ImportMove';
import { ImportSurveys } from './ImportSurveys';
import { useMoveRows } from './useMoveRows';

const views = [
  { id: 'devices', title: 'Devices' },
  { id: 'fit', title: 'Prices' },
  { id: 'groups', title: 'Groups and shopping list' },
] as const;
type ViewId = (typeof views)[number]['id'];

type Dialog = 'move' | 'list' | 'surveys' | 'choose';

/** Every move: as a list, by what each release would take, and by what they have in common. All of it in the address. */
export function FleetView() {
  const [search, setSearch] = useSearchParams();
  const may = useMay();
  const [dialog, setDialog] = useState<Dialog>();
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [selecting, setSelecting] = useState(false);
  const [selectError, setSelectError] = useState<unknown>();
  const view: ViewId = views.find(({ id }) => id === search.get('view'))?.id ?? 'devices';
  const { house } = useHouse();

  const address = search.toString();
  const query = useMemo((): Omit<MoveListQuery, 'page' | 'pageSize'> => {
    const parsed = MoveListQuerySchema.safeParse(Object.fromEntries(new URLSearchParams(address)));
    const {
      page: _page,
      pageSize: _pageSize,
      ...rest
    } = parsed.success ? parsed.data : MoveListQuerySchema.parse({});
    return { ...rest, fit: view === 'fit' ? 'yes' : '' };
  }, [address, view]);
  const rows = useMoveRows(query);

  const set = (changes: Readonly<Record<string, string>>) => {
    const next = new URLSearchParams(search);
    for (const [key, value] of Object.entries(changes))
      if (value === '') next.delete(key);
      else next.set(key, value);
    setSearch(next, { replace: true });
  };
  const addressOfView = (id: ViewId) => {
    const next = new URLSearchParams(search);
    if (id === 'devices') next.delete('view');
    else next.set('view', id);
    const text = next.toString();
    return `/fleet${text === '' ? '' : `?${text}`}`;
  };
  const select = (reference: string, on: boolean) => {
    const next = new Set(selected);
    if (on) next.add(reference);
    else next.delete(reference);
    setSelected(next);
  };
  const selectAll = async () => {
    setSelecting(true);
    setSelectError(undefined);
    try {
      const { references } = await call(api.moveReferences, { query });
      setSelected(new Set(references));
    } catch (problem) {
      setSelectError(problem);
    } finally {
      setSelecting(false);
    }
  };
  const close = () => setDialog(undefined);

  return (
    <>
      <title>Fleet · Ulvane</title>
      <div className="page-head">
        <h1>Fleet</h1>
        <span className="soft" aria-live="polite">
          {rows.first ? `${printCount(rows.total, 'move')}` : ''}
        </span>
        <nav className="views" aria-label="Ways to see the fleet">
          {views.map(({ id, title }) => (
            <NavLink
              key={id}
              to={addressOfView(id)}
              className={() => (id === view ? 'active' : '')}
              aria-current={id === view ? 'page' : undefined}
            >
              {title}
            </NavLink>
          ))}
        </nav>
        {may.write && (
          <span className="ms-auto d-flex gap-2">
            <Button size="sm" variant="quiet" onClick={() => setDialog('list')}>
              Import a list
            </Button>
            <Button size="sm" variant="quiet" onClick={() => setDialog('surveys')}>
              Import surveys
            </Button>
            <Button size="sm" variant="quiet" onClick={() => setDialog('move')}>
              Import a move
            </Button>
          </span>
        )}
      </div>
      {house && <ReassessmentNote version={house.catalogueVersion * 100_000 + house.houseRulesVersion} />}
      {view !== 'groups' && (
        <FleetFilters
          query={query}
          first={rows.first}
          onChange={set}
          onClear={() => setSearch(view === 'devices' ? {} : { view }, { replace: true })}
        />
      )}
      {selected.size > 0 && view === 'devices' && (
        <div className="notice good d-flex gap-2 align-items-center" role="status">
          {printCount(selected.size, 'move')} selected
          <Button size="sm" onClick={() => setDialog('choose')}>
            Choose a route for them
          </Button>
          <Button size="sm" variant="quiet" onClick={() => setSelected(new Set())}>
            Select none
          </Button>
        </div>
      )}
      <Problem error={rows.error ?? selectError} />
      {!rows.first && rows.error === undefined && <Loading what="the fleet" />}
      {rows.first && view === 'devices' && (
        <>
          {may.write && rows.total > 0 && (
            <p className="mb-1">
              <button
                type="button"
                className="btn-plain"
                disabled={selecting}
                onClick={() => void selectAll()}
              >
                {selecting ? 'Selecting …' : `Select all ${rows.total.toLocaleString('en')}`}
              </button>
            </p>
          )}
          {rows.total > 0 && (
            <DeviceList
              rows={rows}
              sort={query.sort}
              order={query.order}
              onSort={(sort, order) => set({ sort, order })}
              selected={selected}
              onSelect={may.write ? select : undefined}
            />
          )}
        </>
      )}
      {rows.first && house && view === 'fit' && (
        <FitView query={query} rows={rows} rates={house.houseRules.rates} />
      )}
      {rows.first && rows.total === 0 && view === 'devices' && (
        <p className="sheet empty">No move fits. Show all, or drop a survey on Today.</p>
      )}
      {view === 'groups' && <Groups />}
      {dialog === 'move' && <ImportMove onClose={close} />}
      {dialog === 'list' && <ImportList onClose={close} />}
      {dialog === 'surveys' && <ImportSurveys onClose={close} />}
      {dialog === 'choose' && (
        <ChooseForMany
          references={[...selected].sort()}
          onClose={(done) => {
            if (done) setSelected(new Set());
            close();
          }}
        />
      )}
    </>
  );
}
