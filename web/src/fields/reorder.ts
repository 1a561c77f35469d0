/** Moves an item of a list by so many places, in the list itself. */
export function moveItem<T>(list: T[], at: number, by: number) {
  const [item] = list.splice(at, 1)
  if (item !== undefined) list.splice(at + by, 0, item)
}
