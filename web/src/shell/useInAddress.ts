import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/** A choice that stands in the address of the view, so that a reload, Back and a shared link keep it. */
export function useInAddress(name: string, otherwise: string) {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => (typeof route.query[name] === 'string' ? route.query[name] : otherwise),
    set: (value) => {
      void router.replace({ query: { ...route.query, [name]: value === otherwise ? undefined : value } })
    },
  })
}
