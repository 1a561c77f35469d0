import { describe, expect, it, vi } from 'vitest'
import { ApiError, take, whenSignedOut } from './client'

const answer = (status: number, body: unknown) =>
  Promise.resolve({
    ...(status < 400 ? { data: body } : { error: body }),
    response: new Response(null, { status }),
  })

describe('an answer of the studio', () => {
  it('is its data when all is well', async () => {
    expect(await take(answer(200, { id: 'p' }))).toEqual({ id: 'p' })
  })

  it('is the server’s own words when it is refused, with the field they are about', async () => {
    const refused = take(
      answer(422, { detail: 'This tag belongs to another source.', errors: [{ location: 'tag' }] }),
    )
    await expect(refused).rejects.toMatchObject({
      status: 422,
      field: 'tag',
      message: 'This tag belongs to another source.',
    })
  })

  it('says that nothing is lost when there is none', async () => {
    const lost = take(Promise.reject(new TypeError('fetch failed')))
    await expect(lost).rejects.toBeInstanceOf(ApiError)
    await expect(take(Promise.reject(new TypeError('x')))).rejects.toThrow('Nothing you typed is lost')
  })

  it('has a plain sentence where the server had none', async () => {
    await expect(take(answer(502, undefined))).rejects.toThrow('Try again in a minute')
  })

  it('tells everybody when the session is over', async () => {
    const heard = vi.fn()
    whenSignedOut(heard)
    await expect(take(answer(401, { detail: 'You are signed out.' }))).rejects.toThrow('signed out')
    expect(heard).toHaveBeenCalledOnce()
  })
})
