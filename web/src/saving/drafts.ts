import { openDB, type DBSchema, type IDBPDatabase } from 'idb'

/** What somebody typed and the server has not taken yet, as this browser keeps it. */
export interface Draft {
  /** What it is a change of: "page/0198…". */
  of: string
  /** The tab it was typed in: two tabs keep apart what was typed in each. */
  tab: string
  /** Who typed it; nobody else is shown it. */
  owner: string
  /** When, in milliseconds since 1970. */
  at: number
  base: unknown
  value: unknown
  /** Saves whose answers never came. */
  sent?: { as: string; value: unknown }[]
}

interface Schema extends DBSchema {
  drafts: { key: [string, string]; value: Draft }
}

/** How long a draft is kept, in milliseconds: 30 days. */
const KEPT = 30 * 24 * 3_600_000

const TAB = crypto.randomUUID()
let opened: Promise<IDBPDatabase<Schema>> | undefined

function open() {
  opened ??= openDB<Schema>('jundle', 1, {
    upgrade: (database) => void database.createObjectStore('drafts', { keyPath: ['of', 'tab'] }),
  })
  return opened
}

/** A lock held for as long as the tab is open tells others that it is at work on its drafts itself. */
const lockOf = (tab: string) => `jundle-tab-${tab}`
void globalThis.navigator?.locks?.request(lockOf(TAB), () => new Promise(() => {}))

async function openTabs(): Promise<Set<string>> {
  const { held = [] } = (await navigator.locks?.query()) ?? {}
  return new Set([lockOf(TAB), ...held.flatMap(({ name }) => name ?? [])])
}

export async function keepDraft(draft: Omit<Draft, 'tab'>) {
  const database = await open()
  const change = database.transaction('drafts', 'readwrite')
  void change.store.put({ ...draft, tab: TAB })
  // A page that is being closed does not wait for it to be done by itself.
  change.commit()
  await change.done
}

/** Where a tab that is being closed or loaded anew leaves a draft: what is not done at once may not be done. */
const leftIn = ({ of, owner }: Pick<Draft, 'of' | 'owner'>) => `draft/${owner}/${of}`

/** Leaves a draft for the same tab, should it be loaded anew. */
export function leaveDraft(draft: Omit<Draft, 'tab'>) {
  sessionStorage.setItem(leftIn(draft), JSON.stringify(draft))
}

function takeLeft(of: string, owner: string): Draft[] {
  const name = leftIn({ of, owner })
  const left = globalThis.sessionStorage?.getItem(name)
  globalThis.sessionStorage?.removeItem(name)
  return left ? [{ ...(JSON.parse(left) as Omit<Draft, 'tab'>), tab: TAB }] : []
}

export async function dropDraft(of: string) {
  await (await open()).delete('drafts', [of, TAB])
}

/** Takes the drafts of something that tabs left behind when they were closed, the oldest first. */
export async function takeDrafts(of: string, owner: string, now: number): Promise<Draft[]> {
  const left = takeLeft(of, owner)
  const kept = await takeKept(of, owner, now).catch(() => []) // some browsers keep nothing
  return [...kept, ...left].sort((a, b) => a.at - b.at)
}

async function takeKept(of: string, owner: string, now: number): Promise<Draft[]> {
  const database = await open()
  const tabs = await openTabs()
  const left = (await database.getAll('drafts')).filter(({ tab }) => !tabs.has(lockOf(tab)))
  const old = left.filter(({ at }) => now - at > KEPT)
  const found = left.filter((draft) => draft.of === of && draft.owner === owner && !old.includes(draft))
  await Promise.all([...old, ...found].map((draft) => database.delete('drafts', [draft.of, draft.tab])))
  return found
}

/** What somebody has not saved, in this tab or in one that was closed: "page/0198…". */
export async function draftsOf(owner: string): Promise<string[]> {
  const begins = leftIn({ of: '', owner })
  const left = Object.keys(globalThis.sessionStorage ?? {}).filter((name) => name.startsWith(begins))
  const tabs = await openTabs()
  const kept = (await (await open()).getAll('drafts')).filter((draft) => draft.owner === owner)
  const closed = kept.filter(({ tab }) => !tabs.has(lockOf(tab)))
  return [...new Set([...left.map((name) => name.slice(begins.length)), ...closed.map(({ of }) => of)])]
}

/** Whether anything is kept, whoever typed it. */
export async function hasDrafts(): Promise<boolean> {
  if (Object.keys(globalThis.sessionStorage ?? {}).some((name) => name.startsWith('draft/'))) return true
  return (await (await open()).count('drafts')) > 0
}
