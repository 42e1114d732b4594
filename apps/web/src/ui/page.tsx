import { useEffect, type ReactNode } from 'react';

/** The frame of a screen; its title is also that of the window. */
export function Page({ title, children }: { title: string; children: ReactNode }) {
  useEffect(() => {
    document.title = `${title} · Drive Keep`;
  }, [title]);
  return <main className="mx-auto max-w-[1400px] px-4 py-4 lg:px-6">{children}</main>;
}

/** A part of a sheet, with what it is for in the margin. */
export function SheetPart({
  name,
  state,
  narrow = false,
  children,
}: {
  name: string;
  state?: ReactNode;
  /** With a small margin, where something stands beside the sheet. */
  narrow?: boolean;
  children: ReactNode;
}) {
  return (
    <section
      className={`grid grid-cols-[minmax(0,1fr)] gap-y-2 border-t border-rule py-4 ${narrow ? 'gap-x-4 md:grid-cols-[8rem_1fr]' : 'gap-x-6 md:grid-cols-[11rem_1fr]'}`}
    >
      <div>
        <h2 className="font-semibold">{name}</h2>
        <div className="text-sm text-soft">{state}</div>
      </div>
      <div className="min-w-0">{children}</div>
    </section>
  );
}
