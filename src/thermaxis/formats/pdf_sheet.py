"""An A4 sheet with the workshop's typeface: paragraphs, headings and tables, its title and page at every foot."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from fpdf import FPDF
from fpdf.enums import TableBordersLayout, TableCellFillMode
from fpdf.fonts import FontFace, TTFFont

FONTS = Path(__file__).parent / "fonts"
A4_MM, A5_MM = (210.0, 297.0), (148.0, 210.0)
INK, MUTED = (22, 33, 28), (93, 106, 98)


class Sheet(FPDF):
    """A4 (or A5) upright with the title and the page's number at the foot of every page."""

    def __init__(self, title: str, paper: tuple[float, float] = A4_MM) -> None:
        super().__init__(format=paper)
        self.sheet_title = title
        self.add_font("sheet", "", FONTS / "DejaVuSansCondensed.ttf")
        self.add_font("sheet", "B", FONTS / "DejaVuSansCondensed-Bold.ttf")
        self.set_margin(16)
        self.set_auto_page_break(True, margin=18)
        self.set_title(title)
        self.alias_nb_pages()

    def finished(self) -> bytes:
        """The whole document; its typefaces are let go."""
        content = bytes(self.output())
        self.let_go()
        return content

    def let_go(self) -> None:
        """Close the files of the typefaces, which stay open until then."""
        for font in self.fonts.values():
            if isinstance(font, TTFFont):
                font.ttfont.close()

    def footer(self) -> None:
        """Title and page."""
        self.set_y(-13)
        self.say(f"{self.sheet_title} · page {self.page_no()} of {{nb}}", 8, colour=MUTED)

    def say(self, text: str, size: float = 9.5, *, bold: bool = False, colour: tuple[int, int, int] = INK) -> None:
        """A paragraph over the whole width."""
        self.set_font("sheet", "B" if bold else "", size)
        self.set_text_color(*colour)
        self.multi_cell(0, size * 0.5, text, align="L", new_x="LMARGIN", new_y="NEXT")

    def head(self, text: str) -> None:
        """A heading, kept together with what follows."""
        if self.will_page_break(24):
            self.add_page()
        self.ln(3)
        self.say(text, 11.5, bold=True)
        self.ln(1)

    def grid(
        self,
        rows: Sequence[Sequence[str]],
        widths: Sequence[float],
        right_from: int = 99,
        *,
        size: float = 8.5,
        headed: bool = True,
    ) -> None:
        """A table: the first row is its heading; columns from `right_from` on stand to the right."""
        self.set_font("sheet", "", size)
        self.set_text_color(*INK)
        aligns = ["RIGHT" if i >= right_from else "LEFT" for i in range(len(widths))]
        with self.table(
            col_widths=tuple(widths),
            text_align=tuple(aligns),
            line_height=0.54 * size,
            padding=0.7 if headed else 0.35,
            borders_layout=TableBordersLayout.HORIZONTAL_LINES,
            cell_fill_mode=TableCellFillMode.NONE,
            headings_style=FontFace(emphasis="BOLD"),
            first_row_as_headings=headed,
        ) as table:
            for row in rows:
                table.row(list(row))
