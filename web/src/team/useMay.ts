import { computed } from 'vue'
import { useSession } from '@/session'

/** What somebody may do in the workspace they are in. The server decides; screens leave out what it would refuse. */
export function useMay() {
  const session = useSession()
  const role = computed(() => session.me?.role)
  return {
    edit: computed(() => role.value === 'runs' || role.value === 'edits'),
    run: computed(() => role.value === 'runs'),
    /** What all pages share. */
    editAll: computed(() => (role.value === 'runs' || role.value === 'edits') && !!session.me?.whole),
  }
}
