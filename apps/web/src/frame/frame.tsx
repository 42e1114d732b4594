// The slim bar on top, and the screen below it.

import { Outlet } from 'react-router';
import { TopBar } from './top-bar.tsx';

export function Frame() {
  return (
    <>
      <a href="#content" className="sr-only focus:not-sr-only">
        Skip to the content
      </a>
      <TopBar />
      <div id="content">
        <Outlet />
      </div>
    </>
  );
}
