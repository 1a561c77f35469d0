import createClient from 'openapi-fetch'
import type {
  PublicKeyCredentialCreationOptionsJSON,
  PublicKeyCredentialRequestOptionsJSON,
} from '@simplewebauthn/browser'
import { t } from '@/i18n'
import type { components, paths } from './generated/schema'
import { once } from './once'
import { unchanged } from './unchanged'

type Schemas = components['schemas']
export type Block = Schemas['Block']
export type BlockDetail = Schemas['BlockDetailView']
export type Figure = Schemas['Figure']
export type Finding = Schemas['Finding']
export type FontSlice = Schemas['Slice']
export type Icon = Schemas['Icon']
export type IconEntry = Schemas['Entry']
export type Lead = Pick<Schemas['Button'], 'picture' | 'icon' | 'emoji'>
export type Look = Schemas['Look']
export type Buttons = Schemas['Buttons']
export type Pasted = Schemas['Pasted']
export type Change = Schemas['Change']
export type ComparedEdition = Schemas['ComparedEdition']
export type Document = Schemas['Document']
export type KeptDestination = Schemas['KeptDestination']
export type DestinationDetails = Schemas['KeptDestinationDetails']
export type ManyChange = Schemas['Many']
export type ManyPlan = Schemas['ManyPlan']
export type Me = Schemas['Me']
export type NewTakeover = Schemas['NewTakeover']
export type Off = Schemas['OffView']
export type PartnerComparison = Schemas['PartnerComparison']
export type PartnerReading = Schemas['PartnerReading']
export type PageSummary = Schemas['PageSummary']
export type PageState = Schemas['PageState']
export type Place = Schemas['Place']
export type Picture = Schemas['Picture']
export type Rate = Schemas['Rate']
export type ReadingsView = Schemas['ReadingsView']
export type ShortLink = Schemas['ShortLink']
export type WalkStop = Schemas['WalkStop']
export type ListedLink = Schemas['ListedLink']
export type Reading = Schemas['Reading']
export type Source = Schemas['Source']
export type StarterChoice = Schemas['StarterChoice']
export type StepTaken = Schemas['StepTaken']
export type Strip = Schemas['Strip']
export type TrialView = Schemas['TrialView']
export type NewTrial = Schemas['NewTrialRequest']
export type AccountView = Schemas['AccountView']
export type JournalView = Schemas['JournalView']
export type ApiToken = Schemas['APITokenView']
export type Delivery = Schemas['DeliveryView']
export type SignUpView = Schemas['SignUpView']
export type BookingView = Schemas['BookingView']
export type PaymentView = Schemas['PaymentView']
export type DomainView = Schemas['DomainView']
export type Webhook = Schemas['WebhookView']
export type WebhookWish = Schemas['WebhookBody']
export type MemberView = Schemas['MemberView']
/** What somebody may do in a workspace, and with what. */
export type RoleInReach = Pick<MemberView, 'role' | 'whole' | 'pages'>
export type SessionView = Schemas['SessionView']
/** What a device is asked to sign in, and to make a passkey, as the standard has it. */
export type PasskeyRequest = PublicKeyCredentialRequestOptionsJSON
export type PasskeyCreation = PublicKeyCredentialCreationOptionsJSON
export type ThemeChoice = Schemas['ThemeChoice']

/** The studio's API. Its types are generated from the server's own contract. */
export const api = createClient<paths>()
api.use(unchanged)
api.use(once)

/** What went wrong, in the server's words, with the field it is about. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly field: string | undefined,
    readonly body: unknown,
  ) {
    super(message)
  }

  /** Everything that is wrong, each with its place in what was sent. */
  get details(): { location?: string; message?: string }[] {
    const { errors } = (this.body ?? {}) as { errors?: { location?: string; message?: string }[] }
    return errors ?? []
  }
}

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** A part of a list, and where the next begins. */
export interface Part<T> {
  items: T[]
  next: string | undefined
}

/** Takes one part of a list. */
export async function takePart<T>(asked: Promise<Answer<T[]>>): Promise<Part<T>> {
  let next: string | undefined
  const items = await take(
    asked.then((answer) => {
      next = answer.response.headers.get('Next-Cursor') || undefined
      return answer
    }),
  )
  return { items, next }
}

/** Takes a list that is never long, part by part. */
export async function takeAll<T>(ask: (after: string | undefined) => Promise<Answer<T[]>>): Promise<T[]> {
  const all: T[] = []
  let after: string | undefined
  do {
    const part = await takePart(ask(after))
    all.push(...part.items)
    after = part.next
  } while (after)
  return all
}

const onSignedOut = new Set<() => void>()

/** Calls back whenever the server says that nobody is signed in. */
export function whenSignedOut(callback: () => void) {
  onSignedOut.add(callback)
}

/** The data of an answer, or an ApiError that says what happened. */
export async function take<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await asked
  } catch {
    throw new ApiError(0, t('api.theStudioCannotBeReached'), undefined, undefined)
  }
  if (answer.response.ok) return answer.data as T
  const body = answer.error as { detail?: string; errors?: { location?: string }[] } | undefined
  if (answer.response.status === 401) onSignedOut.forEach((callback) => callback())
  throw new ApiError(
    answer.response.status,
    body?.detail || t('api.somethingWentWrongTryAgain'),
    body?.errors?.[0]?.location,
    body,
  )
}
