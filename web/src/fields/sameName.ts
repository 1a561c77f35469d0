const plain = (name: string) => name.trim().replace(/\s+/g, ' ').toLocaleLowerCase()

/** The one of several that goes by a name already, whatever its letters' case. */
export const sameName = <T extends { name: string }>(name: string, others: T[] | undefined): T | undefined =>
  plain(name) ? others?.find((other) => plain(other.name) === plain(name)) : undefined
