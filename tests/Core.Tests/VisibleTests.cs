namespace YardRelay.Core.Tests;

public sealed class VisibleTests
{
    [Theory]
    [InlineData("Łucja's 🚢 plan (final).docx", "Łucja's 🚢 plan (final).docx")]
    [InlineData("עברית", "עברית")]
    [InlineData("a\u001b[2Jb", "a\\u001B[2Jb")]
    [InlineData("a\u009b2Jb", "a\\u009B2Jb")]
    [InlineData("photo\u202Egpj.exe", "photo\\u202Egpj.exe")]
    [InlineData("a\nEvery file is accounted for", "a\\u000AEvery file is accounted for")]
    [InlineData("a\r\tb\u007f\u0000", "a\\u000D\\u0009b\\u007F\\u0000")]
    [InlineData("a\u2028b\u2066c", "a\\u2028b\\u2066c")]
    public void What_moves_paints_or_turns_a_line_is_written_as_its_number(string text, string shown)
    {
        Visible.Line(text).ShouldBe(shown);
        using var terminal = new StringWriter();
        using (var on = Visible.On(terminal))
        {
            on.Write(text);
            on.WriteLine();
            on.Write('\u001b');
            on.Write(text.ToCharArray());
        }
        terminal.ToString().ShouldNotContain("\u001b");
        terminal.ToString().ShouldNotContain("\u202e");
        terminal.ToString().ShouldContain("\n", Case.Sensitive, "lines stay lines");
    }
}
