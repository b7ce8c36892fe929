using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace YardRelay.Service.Paper;

/// <summary>Tables as CSV (RFC 4180), UTF-8 with a byte order mark, so that spreadsheets read letters as they are.</summary>
internal static class CsvTable
{
    /// <summary>
    /// Writes rows; a cell that a spreadsheet would take for a formula is escaped, and one with an end of line is quoted.
    /// </summary>
    public static byte[] Write(IEnumerable<IEnumerable<string>> rows)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var writer = new CsvWriter(text, new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            InjectionOptions = InjectionOptions.Escape,
            NewLine = "\r\n",
            ShouldQuote = cell => cell.Field?.IndexOfAny(['\n', '\r']) >= 0 || ConfigurationFunctions.ShouldQuote(cell)
        }))
            foreach (var row in rows)
            {
                foreach (var cell in row) writer.WriteField(cell);
                writer.NextRecord();
            }
        return [.. Encoding.UTF8.Preamble, .. Encoding.UTF8.GetBytes(text.ToString())];
    }
}
