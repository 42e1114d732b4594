import { Download } from 'lucide-react';
import { Menu, MenuFile } from './menu.tsx';

interface Props {
  readonly name: string;
  readonly label: string;
  readonly files: readonly { readonly name: string; readonly href: string }[];
}

/** A small menu of files to save. */
export function FileMenu({ name, label, files }: Props) {
  return (
    <Menu
      name={
        <>
          <Download className="size-3.5" /> {name}
        </>
      }
      label={label}
      align="start"
      className="min-h-8 border border-rule bg-sheet px-2 hover:border-plum max-lg:min-h-12"
    >
      {files.map((file) => (
        <MenuFile key={file.href} href={file.href}>
          {file.name}
        </MenuFile>
      ))}
    </Menu>
  );
}
