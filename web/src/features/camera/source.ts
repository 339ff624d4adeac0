import type { State, View } from '../../api/client'

/** A camera, real or simulated: pointed for a slot, it gives small frames for the guide and whole photos. */
export interface CameraSource {
  readonly kind: 'browser' | 'simulated'
  /** Rejects with a sentence for the screen when there is no camera or it may not be used. */
  start(): Promise<void>
  point(view: View, state: State): void
  /** The next frame, small enough to be judged several times a second. */
  frame(): Promise<Blob>
  /** The photo of what the last frame showed. */
  take(): Promise<File>
  stop(): void
}

const GUIDE_SIDE_PX = 640
const PHOTO_QUALITY = 0.95

export class BrowserCamera implements CameraSource {
  readonly kind = 'browser'
  stream: MediaStream | null = null
  private readonly video = document.createElement('video')
  private slot = 'photo'

  async start() {
    if (!('mediaDevices' in navigator))
      throw new Error(
        'This browser gives no camera here. Open the salon over https, or choose files instead.',
      )
    try {
      this.stream = await navigator.mediaDevices.getUserMedia({
        audio: false,
        video: { facingMode: 'environment', width: { ideal: 2560 }, height: { ideal: 1920 } },
      })
    } catch (error) {
      throw new Error(refusal((error as DOMException).name), { cause: error })
    }
    this.video.srcObject = this.stream
    this.video.muted = true
    this.video.playsInline = true
    await this.video.play()
  }
  point(view: View, state: State) {
    this.slot = `${state}-${view}`
  }
  frame() {
    return this.drawn(Math.min(1, GUIDE_SIDE_PX / Math.max(this.video.videoWidth, 1)), 0.8)
  }
  async take() {
    return new File([await this.drawn(1, PHOTO_QUALITY)], `${this.slot}.jpg`, { type: 'image/jpeg' })
  }
  stop() {
    this.stream?.getTracks().forEach((track) => track.stop())
    this.stream = null
  }
  private drawn(scale: number, quality: number): Promise<Blob> {
    const canvas = document.createElement('canvas')
    canvas.width = Math.round(this.video.videoWidth * scale)
    canvas.height = Math.round(this.video.videoHeight * scale)
    canvas.getContext('2d')?.drawImage(this.video, 0, 0, canvas.width, canvas.height)
    return new Promise((resolve, reject) =>
      canvas.toBlob(
        (blob) => (blob ? resolve(blob) : reject(new Error('The camera gave no picture yet.'))),
        'image/jpeg',
        quality,
      ),
    )
  }
}

function refusal(name: string): string {
  if (name === 'NotAllowedError')
    return 'The camera may not be used. Allow it in the browser’s address bar and come back, or choose files instead.'
  if (name === 'NotFoundError') return 'No camera was found on this machine. Choose files instead.'
  if (name === 'NotReadableError') return 'Another program holds the camera. Close it and come back.'
  return `The camera could not be started (${name}). Choose files instead.`
}

/** Frames of a fidgeting dog from the server, for trying the camera without one. */
export class SimulatedCamera implements CameraSource {
  readonly kind = 'simulated'
  private view: View = 'front'
  private state: State = 'dry'
  private tick = -1
  private shown: Blob | null = null

  start() {
    return Promise.resolve()
  }
  point(view: View, state: State) {
    this.view = view
    this.state = state
    this.tick = -1
    this.shown = null
  }
  async frame() {
    this.tick += 1
    const asked = `view=${this.view}&state=${this.state}&tick=${this.tick}`
    const answer = await fetch(`/api/camera/simulated?${asked}`)
    if (!answer.ok) throw new Error('The simulated camera has no film of this view.')
    this.shown = await answer.blob()
    return this.shown
  }
  async take() {
    const photo = this.shown ?? (await this.frame())
    return new File([photo], `simulated-${this.state}-${this.view}.jpg`, { type: 'image/jpeg' })
  }
  stop() {
    this.shown = null
  }
}
