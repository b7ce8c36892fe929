using System.Globalization;
using PdfSharp;
using PdfSharp.Drawing;
using PdfSharp.Pdf;
using QRCoder;
using YardRelay.Core;

namespace YardRelay.Service.Paper;

/// <summary>A column of a table on paper.</summary>
/// <param name="Share">Its part of the width.</param>
/// <param name="IsNumber">Stands at the right.</param>
internal sealed record PaperColumn(string Head, double Share, bool IsNumber = false);

/// <summary>
/// A document on A4 that fills itself from the top: head, headings, paragraphs, tables that go on over pages, a foot on each page.
/// </summary>
internal sealed class Sheet : IDisposable
{
    private const double Margin = 48, Foot = 40, Small = 8.5, Plain = 9.5;
    private static readonly XColor Ink = XColor.FromArgb(0x1B, 0x2A, 0x33), Soft = XColor.FromArgb(
        0x5B, 0x6B, 0x75), Rule = XColor.FromArgb(0xC9, 0xD2, 0xD6), Rail = XColor.FromArgb(0x0B, 0x5A, 0x6E);
    private readonly PdfDocument _document = new();
    private readonly string _foot;
    private PdfPage _page = null!;
    private XGraphics _draw = null!;
    private double _y;

    public Sheet(string title, string foot)
    {
        _foot = foot;
        _document.Info.Title = title;
        _document.Info.Creator = "Yard Relay";
        Turn();
    }

    private double Width => _page.Width.Point - (2 * Margin);

    private double Bottom => _page.Height.Point - Margin - Foot;

    /// <summary>Title, a line under it, and at the right a code that leads to a page.</summary>
    public void Head(string title, string under, string address)
    {
        var top = _y;
        _draw.DrawRectangle(new XSolidBrush(Rail), Margin, top, 26, 4);
        _y += 14;
        Line(title, 17, bold: true, Ink, Width - 90);
        Line(under, Plain, false, Soft, Width - 90);
        using var maker = new QRCodeGenerator();
        using var code = maker.CreateQrCode(address, QRCodeGenerator.ECCLevel.M);
        var modules = code.ModuleMatrix;
        var size = 72.0 / modules.Count;
        for (var row = 0; row < modules.Count; row++)
            for (var column = 0; column < modules.Count; column++)
                if (modules[row][column])
                    _draw.DrawRectangle(
                        XBrushes.Black, Margin + Width - 72 + (column * size), top + (row * size), size + 0.05, size + 0.05);
        _y = Math.Max(_y, top + 78);
    }

    public void Heading(string text)
    {
        if (_y + 48 > Bottom) Turn();
        _y += 10;
        Line(text, 11.5, bold: true, Ink, Width);
        _y += 2;
    }

    public void Paragraph(string text, bool strong = false) => Line(text, Plain, strong, Ink, Width);

    /// <summary>Strokes of a drawing, such as a signature, within a box.</summary>
    /// <param name="path">Data of an SVG path with M and L only.</param>
    /// <param name="wide">Units of the drawing that fill the box's width.</param>
    /// <param name="high">Units of the drawing that fill its height.</param>
    public void Drawing(string path, double wide, double high)
    {
        const double Box = 130;
        var scale = Box / wide;
        if (_y + (high * scale) > Bottom) Turn();
        var pen = new XPen(Ink, 1) { LineCap = XLineCap.Round };
        foreach (var stroke in path.Split('M', StringSplitOptions.RemoveEmptyEntries))
        {
            var points = stroke.Split('L').Select(p => p.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries)).Where(p => p.Length == 2)
                .Select(p => (
                    double.TryParse(p[0], NumberStyles.Float, CultureInfo.InvariantCulture, out var x),
                    x,
                    double.TryParse(p[1], NumberStyles.Float, CultureInfo.InvariantCulture, out var y),
                    y))
                    .Where(p => p.Item1 && p.Item3)
                .Select(p => new XPoint(Margin + (Math.Clamp(p.x, 0, wide) * scale), _y + (Math.Clamp(p.y, 0, high) * scale))).ToArray();
            if (points.Length > 1) _draw.DrawLines(pen, points);
        }
        _y += (high * scale) + 2;
    }

    /// <summary>
    /// Two lines that grow from left to right: what was planned, thin, and what is done, thick and not further than today.
    /// </summary>
    /// <param name="done">As long as the first, or shorter.</param>
    public void Plot(
        IReadOnlyList<double> planned, IReadOnlyList<double> done, string first, string last, string plannedName, string doneName)
    {
        const double High = 120, Left = 34;
        if (_y + High + 30 > Bottom) Turn();
        var (top, wide) = (_y + 6, Width - Left);
        var most = Math.Max(1, Math.Max(planned.DefaultIfEmpty().Max(), done.DefaultIfEmpty().Max()));
        XPoint At(int i, double value) =>
            new(Margin + Left + (planned.Count < 2 ? 0 : wide * i / (planned.Count - 1)), top + High - (High * value / most));
        var (font, soft) = (Font(7.5, false), new XSolidBrush(Soft));
        foreach (var part in new[] { 0, 0.5, 1 })
        {
            var y = top + High - (High * part);
            _draw.DrawLine(new XPen(Rule, 0.5), Margin + Left, y, Margin + Width, y);
            var text = $"{most * part:#,0}";
            _draw.DrawString(text, font, soft, Margin + Left - 6 - _draw.MeasureString(text, font).Width, y + 3);
        }
        Curve(planned, new XPen(Soft, 1) { DashStyle = XDashStyle.Dash });
        Curve(done, new XPen(Rail, 2.2) { LineJoin = XLineJoin.Round });
        _draw.DrawString(first, font, soft, Margin + Left, top + High + 11);
        _draw.DrawString(last, font, soft, Margin + Width - _draw.MeasureString(last, font).Width, top + High + 11);
        var key = $"dashed: {plannedName}, line: {doneName}";
        _draw.DrawString(key, font, soft, Margin + Left + ((wide - _draw.MeasureString(key, font).Width) / 2), top + High + 11);
        _y = top + High + 20;

        void Curve(IReadOnlyList<double> values, XPen pen)
        {
            var points = values.Select((v, i) => At(i, v)).ToArray();
            if (points.Length > 1) _draw.DrawLines(pen, points);
            else if (points.Length == 1) _draw.DrawEllipse(new XSolidBrush(pen.Color), points[0].X - 2, points[0].Y - 2, 4, 4);
        }
    }

    /// <summary>A table; its head stands again on each page.</summary>
    public void Table(IReadOnlyList<PaperColumn> columns, IReadOnlyList<IReadOnlyList<string>> rows, bool lastIsTotal = false)
    {
        var shares = columns.Sum(c => c.Share);
        var widths = columns.Select(c => Width * c.Share / shares).ToList();
        Row([.. columns.Select(c => c.Head)], bold: false, Soft, XPens.Transparent);
        for (var i = 0; i < rows.Count; i++)
        {
            var total = lastIsTotal && i == rows.Count - 1;
            var font = Font(Small, total);
            var lines = rows[i].Select((cell, c) => Wrap(cell, font, widths[c] - 8)).ToList();
            if (_y + (lines.Max(l => l.Count) * 11.5) + 5 > Bottom)
            {
                Turn();
                Row([.. columns.Select(c => c.Head)], bold: false, Soft, XPens.Transparent);
            }
            Row(rows[i], total, Ink, new XPen(Rule, 0.5));
        }
        _y += 4;

        void Row(IReadOnlyList<string> cells, bool bold, XColor colour, XPen above)
        {
            var font = Font(Small, bold);
            _draw.DrawLine(above, Margin, _y, Margin + Width, _y);
            var (x, deepest) = (Margin, _y);
            for (var c = 0; c < cells.Count; c++)
            {
                var y = _y + 2.5;
                foreach (var line in Wrap(cells[c], font, widths[c] - 8))
                {
                    var at = columns[c].IsNumber ? x + widths[c] - 8 - _draw.MeasureString(line, font).Width : x;
                    _draw.DrawString(line, font, new XSolidBrush(colour), at, y + 9);
                    y += 11.5;
                }
                deepest = Math.Max(deepest, y);
                x += widths[c];
            }
            _y = deepest + 2.5;
        }
    }

    /// <summary>Ends the document.</summary>
    public byte[] Save()
    {
        _draw.Dispose();
        for (var i = 0; i < _document.PageCount; i++)
        {
            var page = _document.Pages[i];
            using var draw = XGraphics.FromPdfPage(page);
            var (font, y) = (Font(7.5, false), page.Height.Point - Margin);
            draw.DrawString(_foot, font, new XSolidBrush(Soft), Margin, y);
            var number = $"{i + 1} of {_document.PageCount}";
            draw.DrawString(number, font, new XSolidBrush(Soft), page.Width.Point - Margin - draw.MeasureString(number, font).Width, y);
        }
        using var into = new MemoryStream();
        _document.Save(into);
        return into.ToArray();
    }

    public void Dispose()
    {
        _draw.Dispose();
        _document.Dispose();
    }

    private void Line(string text, double size, bool bold, XColor colour, double width)
    {
        var font = Font(size, bold);
        foreach (var line in Wrap(text, font, width))
        {
            if (_y + (size * 1.35) > Bottom) Turn();
            _draw.DrawString(line, font, new XSolidBrush(colour), Margin, _y + size);
            _y += size * 1.35;
        }
    }

    /// <summary>Lines that fit; a word that alone is too long is cut where it must.</summary>
    private List<string> Wrap(string text, XFont font, double width)
    {
        var (lines, line) = (new List<string>(), "");
        // What cannot be seen must not move what can.
        foreach (var word in Visible.Line(text).Split(' '))
        {
            var rest = word;
            var joined = line.Length == 0 ? rest : line + " " + rest;
            if (_draw.MeasureString(joined, font).Width <= width)
            {
                line = joined;
                continue;
            }
            if (line.Length > 0) lines.Add(line);
            while (rest.Length > 1 && _draw.MeasureString(rest, font).Width > width)
            {
                var fits = rest.Length - 1;
                while (fits > 1 && _draw.MeasureString(rest[..fits], font).Width > width) fits--;
                lines.Add(rest[..fits]);
                rest = rest[fits..];
            }
            line = rest;
        }
        lines.Add(line);
        return lines;
    }

    private static XFont Font(double size, bool bold) => new(Fonts.Family, size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);

    private void Turn()
    {
        _draw?.Dispose();
        _page = _document.AddPage();
        _page.Size = PageSize.A4;
        _draw = XGraphics.FromPdfPage(_page);
        _y = Margin;
    }
}
