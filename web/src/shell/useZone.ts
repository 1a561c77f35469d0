import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { workspaceQuery } from '@/api/queries'
import { useSession } from '@/session'

/** The zone by whose clocks the workspace goes. */
export function useZone() {
  const session = useSession()
  const { data: workspace } = useQuery(workspaceQuery())
  return computed(() => workspace.value?.zone ?? session.me?.zone ?? 'UTC')
}
