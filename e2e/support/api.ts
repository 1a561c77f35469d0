import type { components } from '../../web/src/api/generated/schema'

export type Document = components['schemas']['Document']
export type PageState = components['schemas']['PageState']
export type Me = components['schemas']['Me']
