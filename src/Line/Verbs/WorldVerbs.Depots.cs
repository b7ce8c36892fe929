using System.CommandLine;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Verbs;

/// <content>Where parcels are staged: <c>yardline depot</c>.</content>
internal static partial class WorldVerbs
{
    private static Command Depot()
    {
        var (key, name) = (Key, Name);
        var address = new Option<string>("--address")
        {
            Description =
                "file:///path, http(s)://host/path or sftp://user@host/path, without a password; or built-in for the one of the service. "
                    + "Behind a folder's path ?modes=group or ?modes=as-mounted says who else on its system may reach what is staged."
        };
        var capacity = new Option<double?>("--room-gb") { Description = "How much may lie there at once, in GB; 0: no bound." };
        var daily = new Option<double?>("--daily-gb") { Description = "What the link brings in a day, in GB; 0: no bound." };
        var hold = new Option<int?>("--hold-days") { Description = "How long a parcel lies after its swap; a new one: 14." };
        var ends = new Option<DateOnly?>("--ends") { Description = "The day on which the depot deletes by itself." };
        var endless = new Option<bool>("--no-end") { Description = "It does not delete by itself." };
        var sealTo = new Option<string[]>("--seal-to")
        {
            Description = "Recipient (age1…) that new parcels in it are sealed to; repeat for more. Empty: parcels are open."
        };
        var copyTo = new Option<string?>("--copy-to")
        {
            Description =
                "Key of a depot on another disk that keeps a second copy of each parcel, brought up and read back after each verify. "
                    + "Empty: none does."
        };
        var limit = Limit();
        var user = new Option<string?>("--user")
        {
            Description =
                "Name that hands sign in with. What opens a depot is kept encrypted, given to a hand with an order only, and never shown "
                    + "again."
        };
        var password = new Option<string?>("--password-file")
        {
            Description = "File whose first line is the password, or the passphrase of the key; '-' reads it from the input."
        };
        var privateKey = new Option<string?>("--key-file") { Description = "File of a private key, for an SSH server." };
        foreach (var file in new[] { password, privateKey })
            file.Validators.Add(r =>
            {
                if (r.GetValueOrDefault<string?>() is { } named and not "-" && !File.Exists(named))
                    r.AddError($"There is no file '{named}'.");
            });
        var hostKey = new Option<string?>("--host-key")
        {
            Description = "The SSH server's own key as SHA256:…, as ssh-keygen -lf shows it."
        };
        var forget = new Option<bool>("--forget-access")
        {
            Description = "Keeps nothing that opens it any more; hands take it from their environment."
        };
        long? Bytes(ParseResult a, Option<double?> option, long? stands) =>
            SetVerb.IsGiven(a, option) ? a.GetValue(option) is { } g and not 0 ? (long)(g * 1e9) : null : stands;
        return new Command("depot", "Depots: list them, set one, say that one was damaged.")
        {
            DamageVerb.Create(),
            List("depots and what lies in them", "yardline depot list", w => w.Depots, [
                "Key", "Name", "Address", "Parcels", "Lies there", "Promised", "Free", "At most", "Per day", "Rate", "Limits", "Ends",
                "Sealed", "Second copy", "Opened by", "Health"
            ],
                d => [
                    d.Key, d.Name, d.Address, $"{d.Parcels}", ByteText.Of(d.Bytes), d.PromisedBytes > 0 ? ByteText.Of(d.PromisedBytes) : "",
                    d.FreeBytes is { } free ? $"{ByteText.Of(free)}{FillOf(d.Fill)}" : "not known",
                    d.CapacityBytes is { } room ? ByteText.Of(room) : "",
                    d.DailyBytes is { } day ? ByteText.Of(day) : "",
                    $"{ByteText.Of((long)d.BytesPerSecond)}/s {(d.Observed == 0 ? "assumed" : $"seen in {d.Observed}")}",
                    string.Join(", ", d.Limits), $"{d.EndsOn:yyyy-MM-dd}", d.SealTo.Count > 0 ? $"to {d.SealTo.Count}" : "",
                    d.CopyTo is { } copy ? $"in {copy}" : "", d.Address == "built-in" ? "an order" : d.OpenedBy ?? "",
                    d.Trouble is { } trouble
                        ? $"■ {trouble}"
                        : d.HeardAt is { } heard
                        ? $"✓ {heard.OnClock():d MMM HH:mm}"
                        : "not used yet"
                ],
                3,
                4,
                5,
                6,
                7,
                8),
            SetVerb.Create(
                "Makes or changes a depot.",
                "yardline depot set cloud --name 'Cloud share' --address http://127.0.0.1:8421/ --room-gb 500 --daily-gb 120",
                [
                    key, name, address, capacity, daily, hold, ends, endless, sealTo, copyTo, limit, user, password, privateKey, hostKey,
                    forget
                ],
                (w, a) => w.Depots.FirstOrDefault(x => Same(x.Key, a.GetValue(key))),
                async (c, r, a, was, cancel) =>
                {
                    var put = await c.PutDepotAsync(
                        r,
                        was?.Key ?? a.GetValue(key)!,
                        new(
                            a.Must(name, was?.Name), a.Must(address, was?.Address), Bytes(a, capacity, was?.CapacityBytes),
                            Bytes(a, daily, was?.DailyBytes), a.Or(hold, was?.HoldDays),
                            a.GetValue(endless) ? null : a.Or(ends, was?.EndsOn),
                            a.Or(sealTo, was?.SealTo), a.Or(limit, was?.Limits), AccessOf(a), a.OrNone(copyTo, was?.CopyTo)),
                        cancel);
                    // Set it is, and it is no use as it is: that is not done.
                    return put.TryGet(out var d, out _) && d is { Tried: not null, Trouble: { } trouble }
                        ? new DepotUselessProblem(d.Name, trouble)
                        : put;
                },
                typeof(DepotWanted),
                d => Tables.Say(
                    $"{d.Name} is {d.Address}{(d.OpenedBy is null ? "" : $", opened by {d.OpenedBy}")}. {d.Tried}".TrimEnd())),
        };

        static string FillOf(DepotFillState fill) => fill switch
        {
            DepotFillState.Full => " ■ full",
            DepotFillState.SoonFull => " ▲ soon full",
            _ => "",
        };

        DepotAccessWanted? AccessOf(ParseResult a)
        {
            if (a.GetValue(forget)) return new();
            var (name, secret, key, host) = (a.GetValue(user), a.GetValue(password), a.GetValue(privateKey), a.GetValue(hostKey));
            if (name is null && secret is null && key is null && host is null) return null;
            return new(
                name,
                secret is null
                    ? null
                    : (secret == "-" ? Surroundings.Here.ReadLine() : File.ReadLines(secret).FirstOrDefault())?.TrimEnd('\r'),
                key is null ? null : File.ReadAllText(key),
                host);
        }
    }
}
