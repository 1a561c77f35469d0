import { api, take } from '@/api/client'
import type { components } from '@/api/generated/schema'
import { t } from '@/i18n'

type UploadPath = '/api/pictures' | '/api/icons' | '/api/films' | '/api/files'

/** Sends a file as it is; what comes back says what was kept of it. */
export async function upload<P extends UploadPath>(path: P, file: Blob) {
  if (file.size === 0) throw new Error(t('pictures.thisFileIsEmptyChoose'))
  return take(
    api.POST(path, {
      // The contract says "binary"; the client hands it on as it is.
      body: file as unknown as string,
      bodySerializer: (body: unknown) => body as Blob,
      headers: { 'Content-Type': 'application/octet-stream' },
    } as never),
  ) as Promise<Kept[P]>
}

interface Kept {
  '/api/pictures': components['schemas']['Original']
  '/api/icons': components['schemas']['KeptIcon']
  '/api/films': components['schemas']['KeptFile']
  '/api/files': components['schemas']['KeptFile']
}
