/** The environment as it stands: read here and nowhere else. */
export interface Env {
  readonly port: string | undefined;
  readonly host: string | undefined;
  readonly data: string | undefined;
  readonly logLevel: string | undefined;
  readonly demoBundle: string | undefined;
  readonly handsUrl: string | undefined;
  readonly watchedMs: string | undefined;
  readonly pollAlways: string | undefined;
  readonly allow: string | undefined;
}

export function readEnv(from: NodeJS.ProcessEnv): Env {
  return {
    port: from['PORT'],
    host: from['HOST'],
    data: from['FRUSTUM_DATA'],
    logLevel: from['FRUSTUM_LOG'],
    demoBundle: from['FRUSTUM_DEMO_BUNDLE'],
    handsUrl: from['FRUSTUM_HANDS_URL'],
    watchedMs: from['FRUSTUM_WATCHED_MS'],
    pollAlways: from['FRUSTUM_POLL_ALWAYS'],
    allow: from['FRUSTUM_ALLOW'],
  };
}
