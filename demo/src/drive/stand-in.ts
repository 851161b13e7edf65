import { mkdirSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { v2 as webdav } from 'webdav-server';

/** A folder that is there and takes nothing, as a drive that has no room left (RFC 4918, section 11.5). */
export const FULL_FOLDER = 'Full';

/** By which name and password somebody opens the drive. */
export interface DriveUser {
  userName: string;
  password: string;
}

/** Stands in for the school's shared drive: a folder of this machine, by WebDAV (RFC 4918). */
export class StandInDrive {
  private constructor(
    private readonly server: Server,
    /** Where it is, such as `http://localhost:4403/`. */
    readonly address: string,
  ) {}

  /** @param port any one that is free, where it is 0 */
  static async open(folder: string, users: readonly DriveUser[], port = 0): Promise<StandInDrive> {
    mkdirSync(folder, { recursive: true });
    const known = new webdav.SimpleUserManager();
    const rights = new webdav.SimplePathPrivilegeManager();
    for (const { userName, password } of users) {
      rights.setRights(known.addUser(userName, password, false), '/', ['all']);
    }
    const drive = new webdav.WebDAVServer({
      httpAuthentication: new webdav.HTTPBasicAuthentication(known, 'Drive'),
      privilegeManager: rights,
    });
    drive.beforeRequest((asked, goOn) => {
      if (asked.request.method !== 'PUT' || !asked.requested.uri.startsWith(`/${FULL_FOLDER}/`)) return goOn();
      asked.setCode(webdav.HTTPCodes.InsufficientStorage);
      asked.exit();
    });
    await drive.setFileSystemAsync('/', new webdav.PhysicalFileSystem(folder));
    const server = createServer((request, response) => drive.executeRequest(request, response));
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject).listen(port, 'localhost', resolve);
    });
    return new StandInDrive(server, `http://localhost:${(server.address() as AddressInfo).port}/`);
  }

  close(): Promise<void> {
    this.server.closeAllConnections();
    return new Promise((resolve) => this.server.close(() => resolve()));
  }
}
