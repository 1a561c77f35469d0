/**
 * Has a place in a page lead to an address that was typed. Which destination that is, the
 * server says when it is saved.
 */
export function leadTo(place: { address?: string; destinationId?: string }, address: string) {
  place.address = address
  place.destinationId = undefined
}
