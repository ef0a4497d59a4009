"""Handing over at the desk: full size, patterns on stock, plotter, caliper, each driven through its form."""

from __future__ import annotations

import json
import time
from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import QLocale, Qt
from PySide6.QtPrintSupport import QPrinter
from PySide6.QtTest import QTest

from tests.core.test_tiles import printed
from tests.desk.base import DeskTest
from wisecompass.desk.full_size_form import FullSizeForm
from wisecompass.desk.handing_over import SIMULATED_CALIPER
from wisecompass.desk.nest_form import NestForm
from wisecompass.desk.plot_form import PlotForm
from wisecompass.desk.printing import put_on
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.machine import SIMULATED, profile_json
from wisecompass.folio import register, store

PATIENCE = 60.0


class Handing(DeskTest):
    """A window on the hopper's sheet."""

    figure = "hopper"

    def setUp(self) -> None:
        super().setUp()
        self.session.turn_to(*register.place_of(self.session.folio, self.figure))
        self.session.settle()

    def until(self, holds: Callable[[], object], what: str = "") -> None:
        end = time.monotonic() + PATIENCE
        while not holds():
            self.assertLess(time.monotonic(), end, what)
            self.app.processEvents()
            time.sleep(0.002)

    def opened(self, kind: type) -> object:
        form = self.window.handing.form
        self.assertIsInstance(form, kind)
        return form


class FullSize(Handing):
    def opened_form(self) -> FullSizeForm:
        self.window.handing.full_size_action.trigger()
        form = self.opened(FullSizeForm)
        assert isinstance(form, FullSizeForm)
        self.until(lambda: form.tiles is not None)
        return form

    def test_pages_follow_the_form(self) -> None:
        """Paper, overlap and what is printed change the pages; what the printer is like is remembered."""
        form = self.opened_form()
        count = len(form.tiles.tiles)
        form.paper.setEditText("150x200")
        self.until(lambda: form.tiles is not None and len(form.tiles.tiles) > count)
        self.assertIn("pages in", form.said.text())
        form.what.setCurrentIndex(form.what.findData("pattern"))
        form.paper.setEditText("A3")
        self.until(lambda: form.tiles is not None and len(form.tiles.tiles) < count)
        form.across.setValue(99.2)
        self.until(lambda: form.tiles is not None and form.tiles.pages[0].stretch[0] > 1.008)
        target = self.folder / "pages.pdf"
        form.write_pdf(target)
        self.assertTrue(target.read_bytes().startswith(b"%PDF"))
        form.close()
        again = self.opened_form()
        self.assertEqual((again.paper.currentText(), again.across.value()), ("A3", 99.2))

    def test_what_is_wrong_is_said(self) -> None:
        form = self.opened_form()
        form.paper.setEditText("napkin")
        self.until(lambda: "is none of A4" in form.said.text())
        self.assertFalse(form.print_button.isEnabled())
        form.paper.setEditText("70x70")
        form.overlap.setValue(60)
        self.until(lambda: "too small for an overlap" in form.said.text())
        form.overlap.setValue(4)
        form.paper.setEditText("A4")
        self.until(lambda: form.tiles is not None and form.print_button.isEnabled())
        form.write_pdf(self.folder / "nowhere" / "pages.pdf")
        self.assertIn("nowhere", form.said.text())

    def test_printed_through_the_system(self) -> None:
        """The system's preview gets every page on the printer's paper."""
        form = self.opened_form()
        form.print_pages()
        self.assertEqual(len(form.preview.pages), len(form.tiles.pages))
        form.preview.close()

    def test_what_the_system_prints_measures_what_it_says(self) -> None:
        """Through the system's printing, by a printer that prints short and wide: the proof lines come out at 100 mm."""
        form = self.opened_form()
        form.across.setValue(99.0)
        form.upright.setValue(100.5)
        self.until(lambda: form.tiles is not None and form.tiles.pages[0].stretch[1] < 0.996)
        path = self.folder / "printed.pdf"
        target = QPrinter(QPrinter.PrinterMode.HighResolution)
        target.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        target.setOutputFileName(str(path))
        put_on(target, form.tiles.pages)
        pages = printed(path.read_bytes(), (0.99, 1.005))
        self.assertEqual(len(pages), len(form.tiles.pages))
        for page in pages[1:]:
            sizes = [(b[2] - b[0], b[3] - b[1]) for b in (line.bounds for line in (*page.around, *page.drawn))]
            self.assertTrue(any(abs(wide - 100) < 0.02 and high < 0.02 for wide, high in sizes))
            self.assertTrue(any(abs(high - 100) < 0.02 and wide < 0.02 for wide, high in sizes))

    def test_on_an_empty_sheet(self) -> None:
        self.window.new_folio()
        self.window.handing.full_size()
        self.assertIsNone(self.window.handing.form)


class WithCommas(Handing):
    """Where numbers have commas."""

    def setUp(self) -> None:
        before = QLocale()
        QLocale.setDefault(QLocale(QLocale.Language.German, QLocale.Country.Germany))
        self.addCleanup(QLocale.setDefault, before)
        super().setUp()

    def test_numbers_are_typed_with_commas_and_written_with_points(self) -> None:
        form = FullSizeForm(self.session, self.window.theme, self.window, self.settings)
        form.show()
        form.across.selectAll()
        QTest.keyClicks(form.across.lineEdit(), "99,25")
        form.across.interpretText()
        self.assertEqual(form.across.value(), 99.25)
        self.until(lambda: form.tiles is not None and form.tiles.pages[0].stretch[0] > 1.007)
        form.write_pdf(self.folder / "a.pdf")
        form.close()
        plot = PlotForm(self.session, self.window.theme, self.window)
        self.until(lambda: plot.job is not None)
        plot.write(self.folder / "a.gcode")
        self.assertNotIn(",", (self.folder / "a.gcode").read_text())
        plot.close()


class Nesting(Handing):
    folio = store.sample()

    def test_lay_turn_and_write(self) -> None:
        self.window.handing.nest_action.trigger()
        form = self.opened(NestForm)
        assert isinstance(form, NestForm)
        self.until(lambda: form.parts)
        self.assertEqual(form.counts["dome"].value(), 12)
        for name, box in form.counts.items():
            box.setValue(2 if name in ("hopper", "boot") else 0)
        form.stock.setText("360x330")
        QTest.keyClick(form.stock, Qt.Key.Key_Return)
        self.until(lambda: form.pages)
        self.assertIn("4 patterns on", form.said.text())
        self.assertIn("% used", form.which.text())
        form.turn(1)
        for kind in ("pdf", "svg", "dxf", "gcode"):
            form.write(kind, self.folder / f"nested.{kind}")
            self.assertIn("Wrote nested", form.said.text())
        self.assertTrue(list(self.folder.glob("nested*.gcode")))
        form.stock.setText("three")
        form.lay()
        self.until(lambda: "no size such as" in form.said.text())

    def test_a_folio_without_patterns(self) -> None:
        self.window.new_folio()
        self.window.handing.nest()
        form = self.opened(NestForm)
        assert isinstance(form, NestForm)
        self.until(lambda: "has a flat pattern" in form.said.text())
        self.assertFalse(form.lay_button.isEnabled())


class Plotting(Handing):
    def opened_form(self) -> PlotForm:
        self.window.handing.plot_action.trigger()
        form = self.opened(PlotForm)
        assert isinstance(form, PlotForm)
        self.until(lambda: form.job is not None)
        for n in range(form.pens.count()):
            item = form.pens.item(n)
            if item.text() not in ("outline", "fold", "cut"):
                item.setCheckState(Qt.CheckState.Unchecked)
        form.what.setCurrentIndex(form.what.findData("pattern"))
        self.until(lambda: form.send_button.isEnabled() and {s.pen for s in form.job.strokes} == {Pen.FOLD, Pen.CUT})
        return form

    def test_sent_stopped_mended_and_done(self) -> None:
        """Sent to the simulated plotter, which runs out of paper; mended; gone on with; all of it drawn once."""
        form = self.opened_form()
        form.send()
        plotter = form.plotter
        plotter.attended.setChecked(True)
        plotter.speed.setValue(400)
        self.until(lambda: plotter.plug.plotter.waits_for_pen)
        plotter.follow()
        self.assertIn("waiting for the next pen", plotter.said.text())
        plotter.mend_button.click()
        self.assertEqual(plotter.mend_button.text(), "Mend")
        plotter.plug.fail("paper out", 300.0)
        self.until(lambda: form.sending.state == "stopped")
        self.until(lambda: "paper out" in form.said.text())
        self.assertEqual(form.send_button.text(), "Go on")
        plotter.follow()
        self.assertIn("stopped: paper out", plotter.said.text())
        plotter.mend_button.click()
        form.send_button.click()
        self.until(lambda: form.sending.state == "done")
        self.until(lambda: "Done" in form.said.text())
        self.assertEqual(form.bar.value(), 1000)
        ink = sum(each.way.length for each in plotter.plug.plotter.ink)
        self.assertAlmostEqual(ink, sum(stroke.length for stroke in form.job.strokes), delta=0.1)
        plotter.bed.fresh()
        self.assertEqual(plotter.plug.plotter.ink, [])

    def test_paused_and_cancelled_by_closing(self) -> None:
        form = self.opened_form()
        form.send()
        plotter = form.plotter
        self.until(lambda: form.bar.value() > 20)
        form.pause_button.click()
        self.until(lambda: form.pause_button.text() == "Go on")
        self.assertFalse(plotter.plug.plotter.reader.down)
        form.pause_button.click()
        self.until(lambda: form.sending.state == "sending")
        sending = form.sending
        plotter.speed.setValue(400)
        form.close()
        self.assertIn(sending.state, ("cancelled", "done"))
        self.assertFalse(plotter.plug.plotter.reader.down)

    def test_another_plotter_begins_on_fresh_paper(self) -> None:
        """The plotter's window is closed in the middle of it: the next one draws everything."""
        form = self.opened_form()
        form.send()
        form.plotter.speed.setValue(4)
        self.until(lambda: form.bar.value() > 100)
        form.plotter.close()
        self.until(lambda: form.sending.state in ("stopped", "done"))
        self.assertEqual(form.sending.state, "stopped")
        form.send()
        form.plotter.speed.setValue(400)
        self.until(lambda: form.sending.state == "done")
        ink = sum(each.way.length for each in form.plotter.plug.plotter.ink)
        self.assertAlmostEqual(ink, sum(stroke.length for stroke in form.job.strokes), delta=0.1)

    def test_pens_machines_and_files(self) -> None:
        form = self.opened_form()
        form.pens.setCurrentRow(form.pens.count() - 1)
        form.move_pen(-1)
        self.until(lambda: form.job.strokes[0].pen is Pen.CUT)
        path = self.folder / "mine.json"
        path.write_text(json.dumps({**profile_json(replace(SIMULATED, name="mine", pen="M")), "sped": 1}), "utf-8")
        self.assertFalse(form.take_profile(path))
        self.assertIn("“sped” is not known", form.said.text())
        path.write_text(json.dumps(profile_json(replace(SIMULATED, name="mine", pen="M"))), "utf-8")
        self.assertTrue(form.take_profile(path))
        form.reckon()
        self.until(lambda: "M3" in form.job.lines)
        form.write(self.folder / "a.gcode")
        self.assertIn("Wrote a.gcode", form.said.text())
        for kind in ("svg", "dxf"):
            form.write(self.folder / f"a.{kind}")
            self.assertIn("cut", (self.folder / f"a.{kind}").read_text())
        form.check(self.folder / "a.gcode")
        self.assertIn("as mine would draw it", form.said.text())
        (self.folder / "b.gcode").write_text("G1 X3\nnonsense\n")
        form.check(self.folder / "b.gcode")
        self.assertIn("line 2", form.said.text())
        form.port.setEditText("/dev/not-there")
        form.send()
        self.until(lambda: "is not there" in form.said.text())
        self.assertEqual(form.send_button.text(), "Send" if form.sending.state == "done" else "Go on")

    def test_too_large_for_the_machine(self) -> None:
        form = self.opened_form()
        form.profile = replace(SIMULATED, width=100)
        form.reckon()
        self.until(lambda: "he drawing reaches from" in form.said.text())


class CaliperAtTheDesk(Handing):
    def test_readings_go_from_field_to_field(self) -> None:
        """Paper at 1:2: what the caliper reads stands in full size; the next field is in hand; an angle is refused."""
        handing, leaf = self.window.handing, self.window.marked
        handing.take_caliper(SIMULATED_CALIPER)
        self.until(lambda: len(leaf.fields) > 2)
        names = [name for name in leaf.fields if leaf.units[name] == "mm"]
        scale = float(self.session.page.scale)
        window = handing.caliper_window
        for n, mm in enumerate((58.97, 40.5)):
            window.opening.setValue(mm)
            window.key.click()
            self.until(lambda n=n: leaf.fields[names[n]].text())
            self.assertAlmostEqual(float(leaf.fields[names[n]].text()), mm / scale, delta=0.01)
        self.assertTrue(leaf.fields[names[2]].hasFocus() or not leaf.isActiveWindow())
        window.units_button.click()
        self.assertIn("in", window.shown.text())
        window.key.click()
        self.until(lambda: leaf.fields[names[2]].text())
        self.assertAlmostEqual(float(leaf.fields[names[2]].text()), 40.5 / scale, delta=0.02)
        window.zero_button.click()
        self.assertEqual(window.shown.text(), "0.0000 in")
        other = next(name for name in leaf.fields if leaf.units[name] != "mm")
        leaf.fields[other].setFocus()
        if leaf.fields[other].hasFocus():
            self.assertIn("a caliper measures lengths", leaf.take_reading(3.0))
        handing.let_go()
        self.assertIsNone(handing.caliper)

    def test_a_port_that_is_not_there(self) -> None:
        self.window.handing.take_caliper("/dev/not-there")
        self.assertIn("is not there", self.window.notice_label.text() or self.window.notice_label.toolTip())
        self.assertIsNone(self.window.handing.caliper)
