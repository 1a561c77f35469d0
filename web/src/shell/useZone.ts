import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { workspaceQuery } from '@/api/queries'
import { useSession } from '@/session'
import { useMay } from '@/team/useMay'

/** The zone by whose clocks the workspace goes. */
export function useZone() {
  const session = useSession()
  const may = useMay()
  const { data: workspace } = useQuery({ ...workspaceQuery(), enabled: may.edit })
  return computed(() => workspace.value?.zone ?? session.me?.zone ?? 'UTC')
}
