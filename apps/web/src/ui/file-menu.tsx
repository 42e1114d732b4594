import { Download } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';

/** A small menu of files to save. */
export function FileMenu({
  name,
  label,
  files,
}: {
  name: string;
  label: string;
  files: readonly { readonly name: string; readonly href: string }[];
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={label}
        className="inline-flex min-h-8 items-center gap-1.5 rounded border border-rule bg-sheet px-2 text-sm hover:border-plum max-lg:min-h-12"
      >
        <Download className="size-3.5" /> {name}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          className="z-20 min-w-44 rounded border border-rule bg-sheet p-1 shadow-lg"
        >
          {files.map((file) => (
            <DropdownMenu.Item key={file.href} asChild>
              <a
                href={file.href}
                download
                className="block rounded px-3 py-1.5 text-sm outline-none data-highlighted:bg-plum-wash max-lg:py-3.5"
              >
                {file.name}
              </a>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
