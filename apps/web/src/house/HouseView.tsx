import { useMay } from '../api/useSession';
import { useHouse } from '../api/useHouse';
import { Loading } from '../shell/Loading';
import { Accounts } from './Accounts';
import { HouseRulesForm } from './HouseRulesForm';
import { HouseRulesHistory } from './HouseRulesHistory';
import { UnreadableRecords } from './UnreadableRecords';

/** House rules, and for leads the accounts. */
export function HouseView() {
  const { house } = useHouse();
  const may = useMay();
  if (!house) return <Loading what="the house" />;
  return (
    <>
      <title>House · Ulvane</title>
      <div className="page-head">
        <h1>House</h1>
        <span className="soft">what good technicians differ on, and what this house does</span>
      </div>
      <div className="columns wide-left">
        <HouseRulesForm key={house.houseRulesVersion} house={house} editable={may.lead} />
        <div>
          {may.lead && <UnreadableRecords />}
          <HouseRulesHistory />
          {may.lead ? (
            <Accounts />
          ) : (
            <section className="sheet">
              <h2>Roles</h2>
              <p className="mb-0">
                Technicians run moves. Leads also overrule gates, choose excluded routes, and edit house
                rules, catalogue and accounts. Observers look and change nothing.
              </p>
            </section>
          )}
        </div>
      </div>
    </>
  );
}
