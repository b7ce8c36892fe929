using CsCheck;
using YardRelay.Core.Roster;

namespace YardRelay.Core.Tests.Roster;

public sealed class RosterTextTests
{
    private static Gen<string> Cell => Gen.Char["abö ;,\".é-"].Array[0, 20].Select(c => "x" + new string(c).TrimEnd());

    private static string Quoted(string cell, char delimiter) =>
        cell.IndexOfAny([delimiter, '"', '\n', '\r']) >= 0 ? "\"" + cell.Replace("\"", "\"\"", StringComparison.Ordinal) + "\"" : cell;

    [Fact]
    public void A_roster_written_with_any_delimiter_alphabet_and_line_end_is_read_as_the_same_rows() =>
        Gen.Select(Cell.Array[1, 12], Gen.Int[0, 2].Select(i => ",;\t"[i]), Gen.Bool.Select(b => b ? "\n" : "\r\n"), Gen.Int[0, 3])
            .Sample((names, delimiter, end, alphabet) =>
        {
            string Line(params string[] cells) => string.Join(delimiter, cells.Select(c => Quoted(c, delimiter))) + end;
            var text = Line("person", "name", "site", "kind", "new_tag")
                + string.Concat(names.Select((n, i) => Line($"k{i}", n, n, "issue", $"KB-{i}")));
            byte[] file = alphabet switch
            {
                0 => System.Text.Encoding.UTF8.GetBytes(text),
                1 => [0xEF, 0xBB, 0xBF, .. System.Text.Encoding.UTF8.GetBytes(text)],
                2 => [0xFF, 0xFE, .. System.Text.Encoding.Unicode.GetBytes(text)],
                _ => System.Text.CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetBytes(text),
            };
            // Text of Windows-1252 that happens to be well-formed UTF-8 is read as that: only bytes tell.
            var decoded = RosterText.Decode(file);
            decoded.ShouldBe(text);
            RosterText.DelimiterOf(decoded).ShouldBe(delimiter);
            var rows = RosterReader.Read(decoded).Value;
            rows.Select(r => (r.Person, r.Name, r.Site, r.NewTag)).ShouldBe(names.Select((n, i) => ($"k{i}", n, n, (string?)$"KB-{i}")));
        }, iter: 300);

    [Theory]
    [InlineData("1/2/2026|3/4/2026", null), InlineData("1/2/2026|13/4/2026", true), InlineData(
        "1/2/2026|3/14/2026", false), InlineData("13/2/2026|2/13/2026", null), InlineData("2026-11-25", null), InlineData("", null)]
    public void One_number_above_twelve_tells_the_order_of_all_dates(string fields, bool? dayFirst) =>
        RosterText.IsDayFirst(fields.Split('|')).ShouldBe(dayFirst);

    [Theory]
    [InlineData("Old tag", "old_tag"), InlineData(" NEW-Tag ", "new_tag"), InlineData("name", "name")]
    public void A_head_is_known_however_it_is_written(string head, string known) => RosterColumns.Form(head).ShouldBe(known);
}
