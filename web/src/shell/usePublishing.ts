import { ref } from 'vue'

const publishing = ref(false)

/** Whether the dialog that publishes is open, for whoever leads there. */
export const usePublishing = () => publishing
