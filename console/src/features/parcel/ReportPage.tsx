import { Button } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import type { Schemas } from '../../api/client'
import { bytesText, countText, filesText } from '../../shared/amounts'
import { Coming, Failed } from '../../shared/States'
import { visible } from '../../shared/visible'
import { useClock } from '../../shared/zone'
import { reportQuery } from './queries'

/** What came along, what did not and why, and what to install again. */
export function ReportPage({ id }: { id: string }) {
  const report = useQuery(reportQuery(id))
  const clock = useClock()
  if (report.isPending) return <Coming rows={10} />
  if (report.isError) return <Failed error={report.error} retry={() => report.refetch()} />
  const r = report.data
  return (
    <div className="report">
      <header className="head">
        <div>
          <p className="soft crumbs no-print">
            <Link to="/swaps" search={{}}>
              Swaps
            </Link>{' '}
            /{' '}
            <Link to="/swaps/$swap" params={{ swap: r.swap }}>
              {r.name}
            </Link>
          </p>
          <h1>What came along</h1>
          <p className="soft">
            {r.name} ·{' '}
            <span className="mono">
              {r.oldTag ?? '–'} → {r.newTag ?? '–'}
            </span>{' '}
            · {r.refresh} · as of {clock.full(r.at)}
          </p>
        </div>
        <div className="actions no-print">
          <Button variant="default" component="a" href={`/api/swaps/${encodeURIComponent(r.swap)}/report.csv`} download>
            Table (CSV)
          </Button>
          <Button component="a" href={`/api/swaps/${encodeURIComponent(r.swap)}/report.pdf`} download>
            Paper (PDF)
          </Button>
        </div>
      </header>
      <section className="card" aria-labelledby="folders">
        <div className="card-head">
          <h2 id="folders">Folders</h2>
        </div>
        <p className={r.open.length ? 'verdict sign-stopped' : 'verdict'}>
          {r.open.length > 0 && <span aria-hidden="true">■ </span>}
          {r.words}
        </p>
        {r.account.length > 0 && <Folders report={r} />}
        {r.hold && (
          <p className="soft">
            {r.hold.purgedAt
              ? `The staged copy was purged ${clock.full(r.hold.purgedAt)}.`
              : r.hold.until
                ? `The staged copy is kept until ${r.hold.until}: single files can be restored until then.`
                : 'The staged copy is kept until the swap is signed off, and some days more.'}
          </p>
        )}
      </section>
      {r.stayed.length > 0 && (
        <section className="card" aria-labelledby="stayed">
          <div className="card-head">
            <h2 id="stayed">What stayed behind, and why</h2>
          </div>
          <div className="table-scroll" tabIndex={0} role="region" aria-label="What stayed behind">
            <table className="account words">
              <thead>
                <tr>
                  <th scope="col">Reason</th>
                  <th scope="col">Decided by</th>
                  <th scope="col">Files</th>
                </tr>
              </thead>
              <tbody>
                {r.stayed.map((s) => (
                  <tr key={s.reason + s.what}>
                    <th scope="row">{s.reason || s.what}</th>
                    <td>{s.by ?? 'a rule'}</td>
                    <td>{s.files ? `${filesText(s.files.files)}, ${bytesText(s.files.bytes)}` : ''}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
      )}
      <Files title="Files that are still open" files={r.open} why={(s) => s.reason} />
      <Files title="Files that were given up" files={r.waived} why={(s) => `${s.endReason} (${s.endedBy})`} />
      {r.programs.length > 0 && (
        <section className="card" aria-labelledby="programs">
          <div className="card-head">
            <h2 id="programs">Programs of the old computer</h2>
            <span className="soft">
              {r.programs.filter((p) => p.offer).length} of {r.programs.length} are in the catalogue
            </span>
          </div>
          <div className="table-scroll" tabIndex={0} role="region" aria-label="Programs">
            <table className="account words">
              <thead>
                <tr>
                  <th scope="col">Program</th>
                  <th scope="col">On the new computer</th>
                  <th scope="col">Where to get it</th>
                </tr>
              </thead>
              <tbody>
                {r.programs.map((p) => (
                  <tr key={p.name + p.version}>
                    <th scope="row">
                      {p.name} <span className="soft mono">{p.version}</span>
                    </th>
                    <td>
                      {p.offer ?? <span className="soft">not in the catalogue</span>}
                      {p.isLicenceBound && (
                        <small className="sign-wants">
                          <span aria-hidden="true">▲</span> sign out of it on the old computer first
                        </small>
                      )}
                    </td>
                    <td>{p.where ?? ''}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
      )}
    </div>
  )
}

function Folders({ report }: { report: Schemas['ParcelReport'] }) {
  return (
    <div className="table-scroll" tabIndex={0} role="region" aria-label="Files per folder">
      <table className="account">
        <thead>
          <tr>
            <th scope="col">Folder</th>
            <th scope="col">Old computer</th>
            <th scope="col">Size</th>
            <th scope="col">In the depot</th>
            <th scope="col">New computer</th>
            <th scope="col">Stayed</th>
            <th scope="col">Open</th>
          </tr>
        </thead>
        <tbody>
          {report.account.map((f) => (
            <Folder key={f.folder} f={f} />
          ))}
        </tbody>
        <tfoot>
          <Folder f={report.total} />
        </tfoot>
      </table>
    </div>
  )
}

function Folder({ f }: { f: Schemas['FolderAccount'] }) {
  const open = f.open.files + f.openAtNew.files
  return (
    <tr>
      <th scope="row">{f.folder === '.' ? 'Beside the folders' : visible(f.folder)}</th>
      <td>{countText(f.old.files)}</td>
      <td className="soft">{bytesText(f.old.bytes)}</td>
      <td>{countText(f.inDepot.files)}</td>
      <td>{f.onNew ? countText(f.onNew.files) : ''}</td>
      <td>{countText(f.leftOut.files + f.waived.files + f.waivedAtNew.files)}</td>
      <td className={open ? 'sign-stopped' : ''}>{countText(open)}</td>
    </tr>
  )
}

function Files({ title, files, why }: { title: string; files: Schemas['SnagSeen'][]; why: (snag: Schemas['SnagSeen']) => string }) {
  if (files.length === 0) return null
  return (
    <section className="card" aria-label={title}>
      <div className="card-head">
        <h2>{title}</h2>
        <span className="soft">{filesText(files.length)}</span>
      </div>
      <div className="table-scroll" tabIndex={0} role="region" aria-label={title}>
        <table className="account words">
          <thead>
            <tr>
              <th scope="col">File</th>
              <th scope="col">Size</th>
              <th scope="col">Why</th>
            </tr>
          </thead>
          <tbody>
            {files.map((s) => (
              <tr key={s.id}>
                <th scope="row" className="mono path">
                  {visible(s.path)}
                </th>
                <td>{s.bytes ? bytesText(s.bytes) : ''}</td>
                <td>{why(s)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}
