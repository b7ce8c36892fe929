import { CartesianGrid, ComposedChart, Line, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import type { Schemas } from '../../api/client'
import { dayText } from '../../shared/wall'
import { pointsOf } from './points'

/** What was planned to be accepted by each day, what is, and when all may be over. Loaded with its page only. */
export default function ProgressPlot({ yard, outlook }: { yard: Schemas['YardSeen']; outlook: Schemas['OutlookSeen'] | undefined }) {
  const text = (day: string) => dayText(day, { day: 'numeric', month: 'short' })
  const points = pointsOf(yard, outlook)
  const days = points.map((d) => ({ ...d, day: text(d.day) }))
  const even = points.find((d) => d.even !== undefined && d.day > yard.today)
  return (
    <figure className="plot" aria-label={`${yard.done} of ${yard.swaps} accepted`}>
      <ResponsiveContainer width="100%" height={210}>
        <ComposedChart data={days} margin={{ top: 12, right: 12, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--hair)" vertical={false} />
          <XAxis dataKey="day" tick={{ fill: 'var(--soft)', fontSize: 12 }} stroke="var(--hair)" minTickGap={16} />
          <YAxis width={44} allowDecimals={false} tick={{ fill: 'var(--soft)', fontSize: 12 }} stroke="var(--hair)" />
          <Tooltip
            contentStyle={{ background: 'var(--sheet)', border: '1px solid var(--hair)', borderRadius: 8 }}
            labelStyle={{ color: 'var(--ink)' }}
            itemStyle={{ color: 'var(--ink)' }}
          />
          <ReferenceLine
            x={text(yard.today)}
            stroke="var(--soft)"
            strokeDasharray="2 3"
            label={{ value: 'today', position: 'insideTopLeft', fill: 'var(--soft)', fontSize: 12 }}
          />
          <Line
            dataKey="planned"
            name="planned"
            stroke="var(--soft)"
            strokeWidth={1.6}
            strokeDasharray="6 4"
            dot={false}
            isAnimationActive={false}
          />
          {even && (
            <>
              <Line
                dataKey="even"
                name="even chance"
                stroke="var(--moving)"
                strokeWidth={1.6}
                strokeDasharray="2 4"
                dot={{ r: 3, fill: 'var(--moving)', strokeWidth: 0 }}
                connectNulls
                isAnimationActive={false}
              />
              <Line
                dataKey="sure"
                name="95 of 100"
                stroke="var(--wants)"
                strokeWidth={1.6}
                strokeDasharray="2 4"
                dot={{ r: 3, fill: 'var(--wants)', strokeWidth: 0 }}
                connectNulls
                isAnimationActive={false}
              />
            </>
          )}
          <Line
            dataKey="done"
            name="accepted"
            stroke="var(--rail)"
            strokeWidth={2.8}
            dot={{ r: 3, fill: 'var(--rail)', strokeWidth: 0 }}
            isAnimationActive={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
      <figcaption className="soft">
        Dashed: planned to be over by the end of the day. Line: accepted by the person.
        {even && (
          <>
            {' '}
            Dotted, by the forecast: all over by <strong>{text(even.day)}</strong> with an even chance
            {outlook?.sureDay ? (
              <>
                , by <strong>{text(outlook.sureDay)}</strong> in 95 of 100 runs
              </>
            ) : null}
            .
          </>
        )}
      </figcaption>
    </figure>
  )
}
