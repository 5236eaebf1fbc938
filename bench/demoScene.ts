import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { openDocument, type ProjectDocument } from '@zippy/core/document';

export const made = (name: string): string => fileURLToPath(new URL(`../demo/made/${name}`, import.meta.url));

/** The demo project with the paths of its files, as the tracer asks for them. */
export function demoScene(): { document: ProjectDocument; files: Record<string, string> } {
  const document = openDocument(JSON.parse(readFileSync(made('project.json'), 'utf8')));
  const files = Object.fromEntries(
    Object.values(document.assets).map((asset) =>
      asset.kind === 'model' ? [asset.hash, made('ferrow-r2.meshes.glb')] : [asset.id, made(asset.sourceName)],
    ),
  );
  return { document, files };
}
