import { UserProblem } from '@zippy/core/document';
import { errorCode } from './storage/errorCode';

/** @throws UserProblem where it is no port */
export function readPort(text: string): number {
  const port = Number(text);
  if (/^\d{1,5}$/.test(text) && port <= 65_535) return port;
  throw new UserProblem(
    'port-invalid',
    `ZIPPY_PORT is "${text}", which is no port. Set it to a number from 0 to 65535.`,
  );
}

/** Why the server does not start, in a sentence that says what to do. */
export function sayStartFailure(
  error: unknown,
  { folder, host, port }: { folder: string; host: string; port: number },
): string {
  if (error instanceof UserProblem) return error.message;
  const code = errorCode(error);
  switch (code) {
    case 'EADDRINUSE':
      return `Port ${port} is in use. Set ZIPPY_PORT to another one.`;
    case 'EADDRNOTAVAIL':
    case 'ENOTFOUND':
    case 'EAI_AGAIN':
      return `This machine has no address "${host}". Set ZIPPY_HOST to one of its own, such as 127.0.0.1.`;
    case 'ENOTDIR':
    case 'EEXIST':
      return `${folder} is a file, or lies in one. Set ZIPPY_DATA to a folder.`;
    case 'EACCES':
    case 'EPERM':
    case 'EROFS':
    case 'SQLITE_READONLY':
    case 'SQLITE_READONLY_DIRECTORY':
    case 'SQLITE_CANTOPEN':
      return code === 'EACCES' && port > 0 && port < 1024
        ? `Port ${port} is open to the administrator alone. Set ZIPPY_PORT to one above 1023.`
        : `The folder ${folder} cannot be written. Give this user the right to, or set ZIPPY_DATA to another folder.`;
    case 'ENOSPC':
    case 'SQLITE_FULL':
      return `The disk of ${folder} is so full that the server cannot start. Free some space; nothing that was saved is lost.`;
    case 'SQLITE_NOTADB':
    case 'SQLITE_CORRUPT':
      return `The database ${folder}/zippy-reel.sqlite is damaged. Put a copy of it in its place, or move it away to begin anew; frames and files stay.`;
    default:
      return `The server could not start: ${error instanceof Error ? error.message : String(error)}`;
  }
}
