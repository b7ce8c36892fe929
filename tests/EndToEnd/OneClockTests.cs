using System.Globalization;
using System.Text.Json.Nodes;

namespace YardRelay.EndToEnd;

/// <summary>A refresh in one zone, a service and a command line on computers in another.</summary>
public sealed class OneClockTests : IDisposable
{
    private readonly Yard _yard = new();
    private static readonly TimeZoneInfo Berlin = TimeZoneInfo.FindSystemTimeZoneById("Europe/Berlin");

    [Fact]
    public async Task Times_are_those_of_the_refresh_in_and_out_wherever_the_command_line_runs()
    {
        _yard.More["TZ"] = "Pacific/Auckland";
        await _yard.StartServiceAsync();
        await File.WriteAllTextAsync(
            _yard.Folder["roster.csv"],
            "person,name,site,kind,old_tag,new_tag\nk1,Ida Moreau,North Quay,renew,KB-1,KB-11\n",
            TestContext.Current.CancellationToken);
        var starts = DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(DateTimeOffset.UtcNow, Berlin).DateTime).AddDays(1);
        _yard.Line("sign-in", _yard.Address, "--name", "kit", "--refresh", "spring");
        _yard.Line(
            "refresh", "make", "spring", "--name", "Spring", "--starts", $"{starts:yyyy-MM-dd}", "--days", "20", "--zone", "Europe/Berlin");
        _yard.Line("roster", "take", _yard.Folder["roster.csv"]);
        _yard.Line("site", "set", "North Quay", "--name", "North Quay", "--opens", "daily 07:00-19:00");
        _yard.Line("technician", "set", "noor", "--name", "Noor Haddad", "--site", "North Quay", "--shift", "daily 07:00-19:00");
        _yard.Line("plan", "make");
        // In: a time is typed as the clocks of the refresh show it.
        var wall = starts.AddDays(2).ToDateTime(new TimeOnly(9, 15));
        var typed = wall.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture);
        var shown = wall.ToString("ddd d MMM HH:mm", CultureInfo.InvariantCulture);
        _yard.Line("plan", "move", "spring-0001", typed, "--technician", "noor").ShouldContain(shown);
        _yard.Line("plan", "publish");
        // Out: the same in every command, named once, and as an instant with the offset of that zone.
        foreach (var command in new[] { new[] { "swap", "show", "spring-0001" }, ["swap", "list"], ["plan", "show"] })
        {
            var said = _yard.Line(command);
            said.ShouldContain(shown, Case.Sensitive, string.Join(' ', command));
            said.Split("Times: Europe/Berlin").Length.ShouldBe(2, said);
        }
        var offset = Berlin.GetUtcOffset(wall);
        var json = JsonNode.Parse(_yard.Line("swap", "show", "spring-0001", "--json"))!;
        ((string)json["swap"]!["appointment"]!["start"]!).ShouldBe($"{new DateTimeOffset(wall, offset):yyyy-MM-dd'T'HH:mm:sszzz}");
        // The same in and out for what is due, and for a pin.
        _yard.Line("follow-up", "open", "spring-0001", "call her", "--until", typed).ShouldContain(shown);
        _yard.Line("swap", "edit", "spring-0001", "--pin", $"{starts.AddDays(3):yyyy-MM-dd} 14:00").ShouldContain("1 swap changed");
        JsonNode.Parse(_yard.Line("swap", "show", "spring-0001", "--json"))!["swap"]!["appointment"]!["isPinned"]!
            .GetValue<bool>().ShouldBeTrue();
        foreach (var (given, why) in new[]
        {
            ("tomorrow", "is not a time"), ("2026-03-29 02:30", "clocks go forward"), ("2026-10-25 02:30", "twice")
        })
            _yard.TryLine("swap", "edit", "spring-0001", "--pin", given).All.ShouldContain(why);
    }

    public void Dispose() => _yard.Dispose();
}
