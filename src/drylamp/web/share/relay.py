"""TLS before the server: connections are taken, proved and passed on, so that nobody who is slow or says nothing holds up another.

The server itself listens on a socket in a folder of its own that only this user may enter.
"""

from __future__ import annotations

import asyncio
import contextlib
import socket
import ssl
import threading
from pathlib import Path

HANDSHAKE_S, IDLE_S = 10.0, 90.0
MOST_CONNECTIONS = 256
CHUNK = 65_536


class Relay:
    """A listener with TLS (or without, for loggers) before a Unix socket, in a thread of its own."""

    def __init__(self, host: str, port: int, tls: ssl.SSLContext | None, inner: Path) -> None:
        """Bind the port.

        Raises
        ------
        OSError
            it cannot be used.
        """
        self._listening = socket.create_server((host, port), backlog=128)
        self.port = int(self._listening.getsockname()[1])
        self._tls, self._inner = tls, inner
        self._open = 0
        self._loop = asyncio.new_event_loop()
        self._ready, self._over = threading.Event(), asyncio.Event()
        self._thread = threading.Thread(target=self._run, name=f"shared on {self.port}", daemon=True)

    def start(self) -> None:
        """Begin to take connections."""
        self._thread.start()
        self._ready.wait()

    def stop(self) -> None:
        """Take no more, and let go of all."""
        self._loop.call_soon_threadsafe(self._over.set)
        self._thread.join()

    def _run(self) -> None:
        asyncio.set_event_loop(self._loop)
        self._loop.set_exception_handler(lambda loop, context: None)  # a stranger's broken handshake is no news
        self._loop.run_until_complete(self._serve())
        self._loop.run_until_complete(self._loop.shutdown_asyncgens())
        self._loop.close()

    async def _serve(self) -> None:
        handshake_s = None if self._tls is None else HANDSHAKE_S
        server = await asyncio.start_server(
            self._taken, sock=self._listening, ssl=self._tls, limit=CHUNK, ssl_handshake_timeout=handshake_s
        )
        self._ready.set()
        await self._over.wait()
        server.close()
        others = asyncio.all_tasks() - {asyncio.current_task()}
        for task in others:
            task.cancel()
        await asyncio.gather(*others, return_exceptions=True)

    async def _taken(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        """One connection: both ways until either side ends, or neither says anything for a while."""
        if self._open >= MOST_CONNECTIONS:
            writer.transport.abort()
            return
        self._open += 1
        try:
            inner_reader, inner_writer = await asyncio.open_unix_connection(str(self._inner), limit=CHUNK)
            ways = [
                asyncio.ensure_future(_pass_on(reader, inner_writer)),
                asyncio.ensure_future(_pass_on(inner_reader, writer)),
            ]
            try:
                await asyncio.wait(ways, return_when=asyncio.FIRST_COMPLETED)
            finally:
                for way in ways:
                    way.cancel()
                await asyncio.gather(*ways, return_exceptions=True)
                await _closed(inner_writer)
        except OSError:
            pass
        finally:
            self._open -= 1
            await _closed(writer)


async def _pass_on(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
    with contextlib.suppress(OSError, asyncio.TimeoutError, ssl.SSLError):
        while chunk := await asyncio.wait_for(reader.read(CHUNK), IDLE_S):
            writer.write(chunk)
            await writer.drain()


async def _closed(writer: asyncio.StreamWriter) -> None:
    writer.close()
    with contextlib.suppress(OSError, ssl.SSLError, asyncio.TimeoutError):
        await asyncio.wait_for(writer.wait_closed(), 2.0)
