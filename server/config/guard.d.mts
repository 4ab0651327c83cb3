export function refusal(
  request: {
    readonly method: string;
    readonly url: string;
    readonly headers: Readonly<Record<string, string>>;
  },
  hosts?: ReadonlySet<string>,
): [status: number, title: string, detail: string] | undefined;
