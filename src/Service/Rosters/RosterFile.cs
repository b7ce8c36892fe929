using System.Globalization;
using Microsoft.OpenApi;
using MiniExcelLibs;
using YardRelay.Core;
using YardRelay.Core.Roster;

namespace YardRelay.Service.Rosters;

/// <summary>A roster as it came in: CSV in any alphabet, or the first sheet of an XLSX workbook.</summary>
internal static class RosterFile
{
    public const string Csv = "text/csv";
    public const string Workbook = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

    /// <summary>How the body is described to clients.</summary>
    public static OpenApiRequestBody Body() =>
        new()
        {
            Required = true,
            Content = new Dictionary<string, OpenApiMediaType>
            {
                [Csv] = new() { Schema = new OpenApiSchema { Type = JsonSchemaType.String } },
                [Workbook] = new() { Schema = new OpenApiSchema { Type = JsonSchemaType.String, Format = "binary" } }
            }
        };

    /// <summary>The most bytes that are taken at once.</summary>
    public const int MostBytes = 16 << 20;

    /// <summary>Reads the body of a request; refused when it is too large.</summary>
    public static async Task<Result<byte[]>> ReadAsync(HttpRequest request, CancellationToken cancel)
    {
        var tooLarge = new RosterSizeProblem();
        if (request.ContentLength > MostBytes) return tooLarge;
        using var file = new MemoryStream();
        var buffer = new byte[64 * 1024];
        while (await request.Body.ReadAsync(buffer, cancel) is > 0 and var got)
        {
            if (file.Length + got > MostBytes) return tooLarge;
            file.Write(buffer, 0, got);
        }
        return file.ToArray();
    }

    /// <summary>The table in a file. A workbook is told by its first bytes, not by what it is said to be.</summary>
    public static Result<RosterTable> TableOf(byte[] file) =>
        file.AsSpan().StartsWith("PK"u8) ? OfWorkbook(file) : RosterTable.OfCsv(RosterText.Decode(file));

    private static Result<RosterTable> OfWorkbook(byte[] file)
    {
        var (heads, rows, faults) = ((List<string>?)null, new List<RosterTableRow>(), new List<RosterFault>());
        try
        {
            if (WorkbookBounds.Passed(file) is { } passed) return passed;
            using var stream = new MemoryStream(file, writable: false);
            var line = 0;
            foreach (IDictionary<string, object?> cells in stream.Query(useHeaderRow: false, excelType: ExcelType.XLSX))
            {
                if (++line > WorkbookBounds.MostLines) return new RosterWorkbookLarge($"more than {WorkbookBounds.MostLines:#,0} lines");
                if (cells.Count > RosterTable.MostColumns) return new RosterWorkbookLarge($"more than {RosterTable.MostColumns} columns");
                var texts = cells.Values.Select(Text).ToList();
                if (texts.TrueForAll(t => t.Length == 0)) continue;
                if (heads is null)
                {
                    heads = [.. texts.AsEnumerable().Reverse().SkipWhile(t => t.Length == 0).Reverse()];
                    continue;
                }
                if (rows.Count >= RosterTable.MostRows)
                {
                    faults.Add(RosterTable.TooMany(line));
                    break;
                }
                rows.Add(new(line, [.. Enumerable.Range(0, heads.Count).Select(i => i < texts.Count ? texts[i] : "")]));
            }
        }
        catch (Exception broken)
            when (broken is InvalidDataException or System.Xml.XmlException or FormatException or KeyNotFoundException
                or NullReferenceException or ArgumentException or InvalidOperationException or IOException)
        {
            return new RosterWorkbookProblem();
        }
        return heads is null ? RosterTable.Empty : new RosterTable(heads, rows, faults);
    }

    // A cell that the spreadsheet took for a date or a number reads as a person would have written it.
    private static string Text(object? cell) => cell switch
    {
        null => "",
        DateTime { TimeOfDay.Ticks: 0 } day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        DateTime at => at.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture),
        double number => number.ToString("0.###############", CultureInfo.InvariantCulture),
        IFormattable other => other.ToString(null, CultureInfo.InvariantCulture),
        _ => cell.ToString()?.Trim() ?? "",
    };
}
