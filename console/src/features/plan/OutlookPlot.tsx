import { Bar, CartesianGrid, Cell, ComposedChart, Line, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import type { Schemas } from '../../api/client'
import { dayText } from '../../shared/wall'

/** Bars: visits of each day. Line: the chance that all is done by then. Loaded on its own page only. */
export default function OutlookPlot({ outlook }: { outlook: Schemas['OutlookSeen'] }) {
  const last = outlook.days.findIndex((d) => d.doneBy >= 0.999)
  const days = outlook.days.slice(0, Math.max(outlook.days.filter((d) => !d.isBeyond).length, last + 1)).map((d) => ({
    day: dayText(d.day, { day: 'numeric', month: 'short' }),
    visits: d.visits,
    done: Math.round(d.doneBy * 1000) / 10,
    beyond: d.isBeyond,
  }))
  const end = days.filter((d) => !d.beyond).at(-1)?.day
  return (
    <figure
      className="plot"
      aria-label={`Chance that all is done by each day; ${Math.round(outlook.inTime * 100)} percent by the last day`}
    >
      <ResponsiveContainer width="100%" height={250}>
        <ComposedChart data={days} margin={{ top: 12, right: 8, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--hair)" vertical={false} />
          <XAxis dataKey="day" tick={{ fill: 'var(--soft)', fontSize: 12 }} stroke="var(--hair)" minTickGap={16} />
          <YAxis
            yAxisId="chance"
            domain={[0, 100]}
            unit=" %"
            width={54}
            tick={{ fill: 'var(--soft)', fontSize: 12 }}
            stroke="var(--hair)"
          />
          <YAxis
            yAxisId="visits"
            orientation="right"
            width={34}
            allowDecimals={false}
            tick={{ fill: 'var(--soft)', fontSize: 12 }}
            stroke="var(--hair)"
          />
          <Tooltip
            contentStyle={{ background: 'var(--sheet)', border: '1px solid var(--hair)', borderRadius: 8 }}
            labelStyle={{ color: 'var(--ink)' }}
            itemStyle={{ color: 'var(--ink)' }}
          />
          <Bar yAxisId="visits" dataKey="visits" name="visits" isAnimationActive={false} maxBarSize={34}>
            {days.map((d) => (
              <Cell key={d.day} fill="var(--tint)" />
            ))}
          </Bar>
          {end && (
            <ReferenceLine
              yAxisId="chance"
              x={end}
              stroke="var(--wants)"
              strokeWidth={2}
              label={{ value: 'last day', position: 'insideTopLeft', fill: 'var(--wants)', fontSize: 12 }}
            />
          )}
          <Line
            yAxisId="chance"
            dataKey="done"
            name="all done, %"
            stroke="var(--rail)"
            strokeWidth={2.6}
            dot={{ r: 3, fill: 'var(--rail)', strokeWidth: 0 }}
            isAnimationActive={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
      <figcaption className="soft">
        Line: chance that all is done by the end of the day. Bars: visits planned. Days after the last one show what slack would buy.
      </figcaption>
    </figure>
  )
}
