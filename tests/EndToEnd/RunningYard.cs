using YardRelay.Peers;

namespace YardRelay.EndToEnd;

/// <summary>A yard with a small roster, three of its swaps under way, set up through the command line.</summary>
public sealed class RunningYard : IAsyncLifetime
{
    private readonly Yard _yard = new();

    public string Address => _yard.Address;

    public TempFolder Folder => _yard.Folder;

    public Ran TryLine(params string[] args) => _yard.TryLine(args);

    public string Line(params string[] args) => _yard.Line(args);

    public void WorkSteps(string swap) => _yard.WorkSteps(swap);

    public async ValueTask InitializeAsync()
    {
        await _yard.StartServiceAsync();
        await _yard.StartCloudAsync();
        await File.WriteAllTextAsync(Folder["roster.csv"], """
            person,name,site,room,kind,old_tag,new_tag
            k1,Ida Moreau,North Quay,Ticket hall,renew,KB-1,KB-11
            k2,Sol Okafor,North Quay,Desk 4,renew,KB-2,KB-12
            k3,Ana Petrov,Lantern Point,Desk 7,renew,KB-3,KB-13
            k4,Per Lunde,Lantern Point,Crew room,issue,,KB-14

            """);
        Line("sign-in", Address, "--name", "kit", "--refresh", "spring");
        // A zone in which it is morning, so that today has visits at any hour.
        var shift = 7 - DateTime.UtcNow.Hour;
        shift = shift > 14 ? shift - 24 : shift < -12 ? shift + 24 : shift;
        var zone = $"Etc/GMT{(shift >= 0 ? "-" : "+")}{Math.Abs(shift)}";
        Line(
            "refresh", "make", "spring", "--name", "Spring", "--starts", DateTime.UtcNow.AddHours(shift).ToString("yyyy-MM-dd"), "--days",
            "3", "--zone", zone);
        Line("roster", "take", Folder["roster.csv"]);
        Line("technician", "set", "noor", "--name", "Noor Haddad", "--site", "North Quay", "Lantern Point", "--shift", "daily 08:00-18:00");
        Line("depot", "set", "cloud", "--name", "Cloud share", "--address", _yard.CloudAddress);
        Line("account", "set", "noor", "--name", "Noor Haddad", "--role", "technician", "--site", "North Quay");
        Line("account", "set", "wren", "--name", "Wren Ashby", "--role", "auditor");
        Line("plan", "make", "--steps", "100");
        Line("plan", "publish");
        foreach (var tag in new[] { "KB-1", "KB-2", "KB-3" }) SampleTrees.MakeHostile(Folder[$"disks/{tag}/Documents"], tag[3], 40);
        foreach (var tag in new[] { "KB-11", "KB-12", "KB-13" }) Folder.Make($"disks/{tag}");
        foreach (var tag in new[] { "KB-2", "KB-3" }) Run.Must("mkfifo", Folder[$"disks/{tag}/Documents/print-queue"]);
        await _yard.EnrolAsync();
        _yard.Work();
        Line("swap", "order", "survey", "--all");
        Line("swap", "wait", "--seconds", Yard.OrderPatience);
        Line("swap", "order", "first-trip", "spring-0001", "spring-0002", "spring-0003");
        Line("swap", "wait", "--seconds", Yard.OrderPatience);
        Line("swap", "order", "restore", "spring-0001");
        Line("swap", "wait", "--seconds", Yard.OrderPatience);
    }

    public ValueTask DisposeAsync()
    {
        _yard.Dispose();
        return ValueTask.CompletedTask;
    }
}
