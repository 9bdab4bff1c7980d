export declare const CHROMIUM: { executablePath: string; chromiumSandbox: boolean; args: string[] };
