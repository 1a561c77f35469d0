import { startAuthentication, WebAuthnError } from '@simplewebauthn/browser'
import { ref } from 'vue'
import { api, take, type Me, type PasskeyRequest } from '@/api/client'
import { t } from '@/i18n'

/** Signing in: with a password, and a code where one is wanted, or with a passkey. */
export function useSignIn() {
  const password = ref('')
  const code = ref('')
  /** The password is right, and a code is wanted with it. */
  const wantsCode = ref(false)
  const busy = ref(false)
  const wrong = ref('')

  async function attempt(ask: () => Promise<Me | undefined>) {
    busy.value = true
    wrong.value = ''
    try {
      return await ask()
    } catch (error) {
      // Whoever closes what their device asks changed their mind.
      if (!(error instanceof WebAuthnError || (error as Error).name === 'NotAllowedError'))
        wrong.value = (error as Error).message
      else wrong.value = t('account.noPasskeyWasUsed')
      return undefined
    } finally {
      busy.value = false
    }
  }

  /** Who is signed in then; nobody while a code is wanted or something is wrong. */
  const withPassword = (email: string) =>
    attempt(async () => {
      const body = { email, password: password.value, ...(wantsCode.value ? { code: code.value } : {}) }
      const signed = await take(api.POST('/api/sign-in', { body }))
      wantsCode.value = signed.wants === 'code'
      if (signed.me) forget()
      return signed.me
    })

  const withPasskey = () =>
    attempt(async () => {
      const { options, state } = await take(api.POST('/api/passkey-sign-in/question'))
      const answer = await startAuthentication({ optionsJSON: options as PasskeyRequest })
      const body = { state, answer: { ...answer } }
      return (await take(api.POST('/api/passkey-sign-in', { body }))).me
    })

  /** Begins anew, with the password. */
  function forget() {
    password.value = ''
    code.value = ''
    wantsCode.value = false
  }

  return { password, code, wantsCode, busy, wrong, withPassword, withPasskey, forget }
}
