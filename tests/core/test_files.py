"""Files in and out: whole or not at all, whatever happens meanwhile."""

from __future__ import annotations

import errno
import os
import random
import signal
import stat
import tempfile
import time
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

from wisecompass.drafting.errors import BadDocument
from wisecompass.folio import files, store

KILLS = int(os.environ.get("WISE_COMPASS_KILLS", "200"))


class InAFolder(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.path = self.folder / "work.folio.json"

    def there(self) -> list[str]:
        return sorted(entry.name for entry in self.folder.iterdir())


class Writing(InAFolder):
    def test_a_full_disk_leaves_what_was_there(self) -> None:
        self.path.write_bytes(b"before")
        full = OSError(errno.ENOSPC, "No space left on device")
        sentence = "No space left on device; what was there is untouched"
        with mock.patch("os.fsync", side_effect=full), self.assertRaisesRegex(BadDocument, sentence):
            files.write(self.path, b"after", backup=True)
        self.assertEqual(self.path.read_bytes(), b"before")
        self.assertEqual(self.there(), ["work.folio.json"])

    def test_a_full_device_is_one_sentence(self) -> None:
        with self.assertRaisesRegex(BadDocument, "No space left"):
            files.write(Path("/dev/full"), b"x" * 10_000)
        self.assertTrue(stat.S_ISCHR(Path("/dev/full").stat().st_mode), "the device is not replaced by a file")

    def test_a_device_and_a_pipe_are_written_through(self) -> None:
        files.write(Path("/dev/null"), b"x")
        self.assertTrue(stat.S_ISCHR(Path("/dev/null").stat().st_mode))
        pipe = self.folder / "pipe"
        os.mkfifo(pipe)
        reader = os.open(pipe, os.O_RDONLY | os.O_NONBLOCK)
        files.write(pipe, b"through")
        self.assertEqual(os.read(reader, 100), b"through")
        os.close(reader)

    def test_a_link_goes_on_pointing_where_it_does(self) -> None:
        real = self.folder / "real.folio.json"
        real.write_bytes(b"before")
        link = self.folder / "link.folio.json"
        link.symlink_to(real)
        files.write(link, b"after", backup=True)
        self.assertTrue(link.is_symlink())
        self.assertEqual(real.read_bytes(), b"after")
        self.assertEqual(real.with_name("real.folio.json.backup").read_bytes(), b"before")

    def test_a_link_that_points_round_in_a_ring(self) -> None:
        one, other = self.folder / "one", self.folder / "other"
        one.symlink_to(other)
        other.symlink_to(one)
        with self.assertRaises(BadDocument):
            files.write(one, b"x")

    def test_a_stick_without_hard_links_and_modes(self) -> None:
        self.path.write_bytes(b"before")
        refused = OSError(errno.EPERM, "Operation not permitted")
        with mock.patch("os.link", side_effect=refused), mock.patch("pathlib.Path.chmod", side_effect=refused):
            files.write(self.path, b"after", backup=True)
        self.assertEqual(self.path.read_bytes(), b"after")
        self.assertEqual(self.path.with_name(f"{self.path.name}.backup").read_bytes(), b"before")

    def test_a_folder_that_takes_no_files(self) -> None:
        refused = PermissionError(errno.EACCES, "Permission denied")
        with mock.patch("pathlib.Path.open", side_effect=refused), self.assertRaisesRegex(BadDocument, "Permission denied"):
            files.write(self.path, b"x")
        self.assertEqual(self.there(), [])

    def test_a_name_that_no_disk_takes(self) -> None:
        for name in ("a\0b", "x" * 300, "no/such/folder"):
            with self.assertRaises(BadDocument):
                files.write(self.folder / name, b"x")

    def test_the_mode_of_the_file_stays(self) -> None:
        self.path.write_bytes(b"before")
        self.path.chmod(0o640)
        files.write(self.path, b"after")
        self.assertEqual(stat.S_IMODE(self.path.stat().st_mode), 0o640)

    def test_kills_at_random_moments_of_saving(self) -> None:
        """Two folios are saved in turn by a process that is killed: there is always one of them and a backup that is one,
        and the next save clears away what was half written."""
        rng = random.Random(11)
        one = store.sample()
        other = replace(one, work="Another work")
        store.save(one, self.path)
        store.save(one, self.path)
        for kill in range(KILLS):
            child = os.fork()
            if child == 0:
                try:
                    while True:
                        store.save(other, self.path)
                        store.save(one, self.path)
                finally:
                    os._exit(0)
            time.sleep(rng.uniform(0.001, 0.02))
            os.kill(child, signal.SIGKILL)
            os.waitpid(child, 0)
            self.assertIn(store.load(self.path), (one, other), kill)
            self.assertIn(store.load(self.path.with_name(f"{self.path.name}.backup")), (one, other), kill)
        store.save(other, self.path)
        self.assertEqual(self.there(), ["work.folio.json", "work.folio.json.backup"])
        self.assertEqual(store.load(self.path), other)


class Reading(InAFolder):
    def refuses(self, words: str, data: bytes) -> None:
        self.path.write_bytes(data)
        with self.assertRaisesRegex(BadDocument, words) as caught:
            files.read_json(self.path, 1_000_000, "a folio")
        self.assertLess(len(str(caught.exception)), 200)

    def test_json_that_is_none(self) -> None:
        self.refuses("line 1, column 2", b"{")
        self.refuses("nested", b"[" * 100_000)
        self.refuses("nested more than 60 deep", b"[" * 70 + b"]" * 70)
        self.refuses("5000 digits", b"[" + b"9" * 5000 + b"]")
        self.refuses("too large a number", b"[1e999]")
        self.refuses("NaN is not a number", b"[NaN]")
        self.refuses("stands there twice", b'{"a": 1, "a": 2}')
        self.refuses("not UTF-8", b"\xff\xfe{}")
        self.refuses("too large for a folio", b" " * 1_000_001)

    def test_a_byte_order_mark_is_passed_over(self) -> None:
        self.path.write_bytes(b"\xef\xbb\xbf[1]")
        self.assertEqual(files.read_json(self.path, 100, "a list"), [1])

    def test_pipes_devices_and_folders_do_not_hang(self) -> None:
        pipe = self.folder / "pipe"
        os.mkfifo(pipe)
        for path in (pipe, Path("/dev/zero"), self.folder, self.folder / "not there", Path("a\0b")):
            with self.assertRaises(BadDocument):
                files.read_text(path, 1000, "a folio")


class SomebodyElse(InAFolder):
    def test_a_file_changed_meanwhile_is_not_written_over(self) -> None:
        known = store.save(store.sample(), self.path)
        theirs = replace(store.sample(), work="Theirs")
        store.save(theirs, self.path)
        with self.assertRaises(store.ChangedMeanwhile):
            store.save(store.sample(), self.path, known)
        self.assertEqual(store.load(self.path).work, "Theirs")
        store.save(store.sample(), self.path)
        self.assertEqual(store.load(self.path.with_name(f"{self.path.name}.backup")).work, "Theirs")

    def test_a_file_that_is_gone_is_written_anew(self) -> None:
        known = store.save(store.sample(), self.path)
        self.path.unlink()
        store.save(store.sample(), self.path, known)
        self.assertTrue(self.path.exists())


if __name__ == "__main__":
    unittest.main()
