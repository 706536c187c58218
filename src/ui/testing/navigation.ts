/** Stands in for the framework's navigation where a component is tested alone: where it went is looked at afterwards. */
export const went = { pushed: [] as string[], refreshed: 0 };

const router = {
  push: (address: string) => void went.pushed.push(address),
  refresh: () => void went.refreshed++,
};
export const useRouter = () => router;
export const useSearchParams = () => new URLSearchParams(globalThis.location?.search ?? '');
export const useParams = () => ({});
export const usePathname = () => globalThis.location?.pathname ?? '/';

export function forgetWays(): void {
  went.pushed = [];
  went.refreshed = 0;
}
