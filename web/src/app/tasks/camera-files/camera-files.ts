import { inject, Injectable, InjectionToken } from '@angular/core';
import { wrap, type Remote } from 'comlink';
import { lastOrder, nextName, UserProblem, type ProjectDocument } from '@zippy/core/document';
import { settingsOfShot } from '@zippy/core/trace';
import { Notices } from '../../store/notices';
import { Studio } from '../../store/studio';
import { Ask } from '../../ui/ask/ask';
import { saveFile } from '../../ui/save-as';
import type { CameraFilesThread, CameraRead } from './camera-files.worker';

type Thread = Remote<CameraFilesThread> | CameraFilesThread;

/** The thread that writes and reads cameras, begun when it is first needed. */
export const CAMERA_FILES_THREAD = new InjectionToken<() => Thread>('CAMERA_FILES_THREAD', {
  factory: () => () =>
    wrap<CameraFilesThread>(new Worker(new URL('./camera-files.worker', import.meta.url), { type: 'module' })),
});

/** Bytes of a camera's file that are taken in. */
const MOST = 50e6;

/** Cameras that come and go as open files, with their motion and their lens. */
@Injectable({ providedIn: 'root' })
export class CameraFiles {
  private readonly studio = inject(Studio);
  private readonly notices = inject(Notices);
  private readonly ask = inject(Ask);
  private readonly begin = inject(CAMERA_FILES_THREAD);
  private thread: Thread | null = null;

  /** Saves a camera as it moves in the present shot. */
  async save(camera: string, as: 'csv' | 'glb' | 'poses' | 'colmap'): Promise<void> {
    const [document, shot] = [this.studio.document(), this.studio.shotId()];
    const name = document.cameras[camera]?.name;
    if (!name || !shot)
      return this.notices.tell('There is no shot in which it could move. Add one on the time strip first.');
    try {
      const needed: ProjectDocument = {
        ...document,
        assets: {},
        finishes: {},
        takeLooks: {},
        shots: { [shot]: document.shots[shot]! },
      };
      this.thread ??= this.begin();
      if (as === 'csv') saveFile(await this.thread.csv(needed, shot, camera), `${name}.csv`, 'text/csv');
      else if (as === 'glb') saveFile(await this.thread.glb(needed, shot, camera), `${name}.glb`, 'model/gltf-binary');
      else {
        const asked = { document: needed, shot, camera, ...this.pictures(shot) };
        if (as === 'poses') saveFile(await this.thread.poses(asked), 'transforms.json', 'application/json');
        else saveFile(await this.thread.colmap(asked), `${name} COLMAP.zip`, 'application/zip');
      }
    } catch (error) {
      this.notices.tell(error);
    }
  }

  /** Size and take of the pictures of a shot: of its newest take, or as they will be. */
  private pictures(shot: string): { width: number; height: number; take: number } {
    const newest = [...this.studio.takes()].reverse().find((take) => take.shot === shot);
    const { width, height } = newest?.settings ?? settingsOfShot(this.studio.document(), this.studio.document().shots[shot] ?? null); // prettier-ignore
    return { width, height, take: newest?.number ?? (this.studio.takes().at(-1)?.number ?? 0) + 1 };
  }

  /**
   * Takes a camera of a file in, with the keys by which it moves in the present shot, which is taken by it from then on.
   * @param files one table, or the two text files of a COLMAP model
   */
  async read(files: readonly File[]): Promise<void> {
    const shot = this.studio.shotId();
    if (!shot) return this.notices.tell('There is no shot in which it could move. Add one on the time strip first.');
    const large = files.find(({ size }) => size > MOST);
    if (large)
      return this.notices.tell(
        `"${large.name}" is larger than 50 MB, so it is hardly the way of one camera. Choose another file.`,
      );
    try {
      const found = await this.open(files);
      if (found) this.take(shot, found);
    } catch (error) {
      this.notices.tell(error);
    }
  }

  /** Null where the user does not go ahead. */
  private async open(files: readonly File[]): Promise<CameraRead | null> {
    this.thread ??= this.begin();
    const named = (name: string) => files.find((file) => file.name.toLowerCase() === name);
    const [cameras, images] = [named('cameras.txt'), named('images.txt')];
    if (!cameras && !images) {
      const [file] = files;
      return this.thread.read(await file!.text(), file!.name.replace(/\.[^.]*$/, ''));
    }
    if (!cameras || !images)
      throw new UserProblem('camera-file', 'The cameras of a COLMAP model are in two files: choose cameras.txt and images.txt together.'); // prettier-ignore
    const typed = await this.ask.name('These files have no size. How many millimetres is one of their units?', 'Take the camera in', '1000'); // prettier-ignore
    if (typed === null) return null;
    const unit = Number(typed.replace(',', '.'));
    if (!(unit > 0 && unit < 1e6))
      throw new UserProblem('camera-file', `"${typed}" is no length in millimetres, so nothing was taken in. Type a number such as 1000.`); // prettier-ignore
    return this.thread.colmapCamera({ cameras: await cameras.text(), images: await images.text() }, unit, 'Camera');
  }

  private take(shot: string, { camera, tracks, frames }: CameraRead): void {
    this.studio.edit('Take a camera in', (draft) => {
      const names = Object.values(draft.cameras).map(({ name }) => name);
      draft.cameras[camera.id] = { ...camera, name: nextName(names, camera.name), order: lastOrder(draft.cameras) };
      Object.assign(draft.shots[shot]!.tracks, tracks);
      draft.shots[shot]!.camera = camera.id;
    });
    this.studio.select('camera', camera.id);
    this.studio.lookThroughCamera(true);
    const length = this.studio.shot()?.length ?? 0;
    if (frames > length)
      this.notices.say(
        `The camera moves up to frame ${frames}; this shot ends at ${length}. Make it longer to see all of it.`,
      );
  }
}
