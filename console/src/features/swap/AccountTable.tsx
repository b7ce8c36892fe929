import type { Folder, SwapSeen } from '../../api/client'
import { bytesText, countText, filesText } from '../../shared/amounts'
import { Sign } from '../../shared/Sign'
import { Empty } from '../../shared/States'
import { visible } from '../../shared/visible'

const unexplained = (f: Folder) => f.unexplained ?? 0

/** How a folder stands: open files stop, missing ones are still to come, all there is done. */
function signOf(f: Folder): string {
  if (f.open.files + f.openAtNew.files > 0) return 'stopped'
  if (f.old.files - f.leftOut.files + f.inDepot.files === 0) return 'none'
  if (f.inDepot.files === 0) return 'ahead'
  if (f.onNew === null || f.onNew === undefined) return 'moving'
  return 'done'
}

/** The account: old computer = left out + waived + open + in the depot; beside it what is on the new one. */
export function AccountTable({ seen }: { seen: SwapSeen }) {
  const { account, total } = seen
  const open = unexplained(total)
  const doubted = seen.snags.some((snag) => snag.kind === 'sourceDoubted' && snag.end === 'open')
  return (
    <>
      <div className="card-head">
        <h2 id="account">Every file accounted for</h2>
        <span className={open || doubted ? 'sign-stopped' : 'soft'}>
          {account.length === 0
            ? ''
            : doubted
              ? `as trip ${seen.parcel?.trips} left it: the old computer is in doubt`
              : seen.parcel?.trips || total.onNew
                ? open
                  ? `${countText(open)} of ${filesText(total.old.files)} still open`
                  : `all ${filesText(total.old.files)} explained`
                : seen.parcel?.begun
                  ? 'surveyed, its first trip has not ended'
                  : 'surveyed, nothing staged yet'}
        </span>
      </div>
      {account.length === 0 ? (
        <Empty>
          {seen.rescue && seen.parcel?.begun
            ? 'The first trip of the lost computer broke off. What it had brought is counted when it is restored.'
            : seen.swap.kind === 'rescue'
              ? 'No parcel serves this rescue yet. Find the lost computer below; its last good trip comes to the new one.'
              : "Nothing is known of the old computer's files yet. Order a survey; it reads no content."}
        </Empty>
      ) : (
        <div className="table-scroll" tabIndex={0} role="region" aria-label="Files per folder">
          <table className="account">
            <thead>
              <tr>
                <th scope="col">Folder</th>
                <th scope="col" colSpan={2}>
                  Old computer
                </th>
                <th scope="col">Left out</th>
                <th scope="col">Waived</th>
                <th scope="col">Open</th>
                <th scope="col" className="rule">
                  In the depot
                </th>
                <th scope="col">New computer</th>
              </tr>
            </thead>
            <tbody>
              {account.map((f) => (
                <Row key={f.folder} f={f} />
              ))}
            </tbody>
            <tfoot>
              <Row f={total} />
            </tfoot>
          </table>
        </div>
      )}
      {total.goneWords && (
        <p>
          <span className="sign-wants" aria-hidden="true">
            ▲
          </span>{' '}
          {total.goneWords}{' '}
          <span className="soft">
            {account
              .filter((f) => f.gone?.files)
              .map((f) => `${f.folder === '.' ? 'Beside the folders' : visible(f.folder)} ${countText(f.gone?.files ?? 0)}`)
              .join(', ')}
          </span>
        </p>
      )}
    </>
  )
}

function Row({ f }: { f: Folder }) {
  const total = f.folder === 'Total'
  const waived = f.waived.files + f.waivedAtNew.files
  const open = f.open.files + f.openAtNew.files
  return (
    <tr>
      <th scope="row">
        {total ? null : <>{signOf(f) === 'none' ? <span aria-hidden="true">–</span> : <Sign sign={signOf(f)} />} </>}
        {f.folder === '.' ? 'Beside the folders' : visible(f.folder)}
      </th>
      <td>{countText(f.old.files)}</td>
      <td className="soft">{f.old.files ? bytesText(f.old.bytes) : ''}</td>
      <td>{countText(f.leftOut.files)}</td>
      <td className={waived ? 'sign-wants' : ''}>{countText(waived)}</td>
      <td className={open ? 'sign-stopped' : ''}>{countText(open)}</td>
      <td className="rule">{countText(f.inDepot.files)}</td>
      <td>{f.onNew ? countText(f.onNew.files) : ''}</td>
    </tr>
  )
}
