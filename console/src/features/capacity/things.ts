import { carrying } from './carrying'
import { groups } from './groups'
import type { Thing } from './thing'
import { whenAndWhat } from './whenAndWhat'
import { whoAndWhere } from './whoAndWhere'

export type { Field, Thing, Values } from './thing'

/** All kinds of things that a plan is made from, in the order in which they are shown. */
export const things: Thing[] = [...whoAndWhere, ...whenAndWhat, groups, ...carrying]
