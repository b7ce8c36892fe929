using System.CommandLine;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Core;
using YardRelay.Files.Working;
using YardRelay.Hand.Runs;

namespace YardRelay.Hand.Verbs;

/// <summary><c>yardhand key</c>: keys that parcels are sealed to.</summary>
internal static class KeyVerb
{
    public static Command Create() =>
        new(
            "key",
            "Makes, splits and joins keys that parcels are sealed to, and gives a sealed parcel one more.")
            {
                CreateMake(), CreateSplit(), CreateJoin(), CreateAdd()
            };

    private static Command CreateMake()
    {
        var output = Output();
        var command = new Command(
            "make",
            "Makes a key: the secret goes to a file, its recipient is printed and may be known to anybody.\n\nExample:\n  yardhand key "
                + "make --out recovery.key")
            {
                output
            };
        command.SetAction(args =>
        {
            var key = AgeIdentity.Create();
            if (Write(args.GetValue(output)!, $"# recipient: {key.Recipient}\n{key.Secret()}\n") is { } failed) return failed;
            Console.Out.WriteLine(key.Recipient.Text);
            return ExitCodes.AllAccounted;
        });
        return command;
    }

    private static Command CreateSplit()
    {
        var identity = new Option<string>("--identity") { Description = "File with the key.", Required = true };
        var parts = new Option<int>("--parts")
        {
            Description = $"How many parts, 2 to {KeyParts.Most}; any two of them make the key again.",
            DefaultValueFactory = _ => 2
        };
        var command = new Command(
            "split",
            "Splits a key between people: any two parts make it again, one alone says nothing. Each line that is printed is one part; "
                + "give each to another person, then remove the key's file.\n\nExample:\n  yardhand key split --identity recovery.key "
                + "--parts 3")
            {
                identity, parts
            };
        command.SetAction(args =>
        {
            if (!VerbOptions.Keys([args.GetValue(identity)!], null).TryGet(out var keys, out var wrong))
                return VerbRun.Fail(wrong.Code, wrong.Message, false, ExitCodes.Usage);
            if (keys.Identities.Count != 1)
                return VerbRun.Fail(
                    "key.many", $"The file holds {keys.Identities.Count} keys. Split one at a time.", false, ExitCodes.Usage);
            if (args.GetValue(parts) is < 2 or > KeyParts.Most)
                return VerbRun.Fail("key.parts", $"A key has 2 to {KeyParts.Most} parts.", false, ExitCodes.Usage);
            foreach (var part in KeyParts.Split(keys.Identities[0], args.GetValue(parts))) Console.Out.WriteLine(part);
            return ExitCodes.AllAccounted;
        });
        return command;
    }

    private static Command CreateJoin()
    {
        var part = new Option<string[]>("--part") { Description = "File with one part. Give two.", Required = true };
        var output = Output();
        var command = new Command(
            "join",
            "Makes a key of two of its parts.\n\nExample:\n  yardhand key join --part ayo.part --part ines.part --out recovery.key")
            {
                part, output
            };
        command.SetAction(args =>
        {
            var files = args.GetValue(part)!;
            if (files.Length != 2) return VerbRun.Fail("key.parts", "Give two parts.", false, ExitCodes.Usage);
            if (Array.Find(files, f => !File.Exists(f)) is { } missing)
                return VerbRun.Fail("key.file", $"There is no file '{missing}'.", false, ExitCodes.Usage);
            if (KeyParts.TryJoin(File.ReadAllText(files[0]), File.ReadAllText(files[1])) is not { } key)
                return VerbRun.Fail(
                    "key.parts",
                    "These two make no key: one is mistyped, both are the same part, or they are of different keys.",
                    false,
                    ExitCodes.Usage);
            if (Write(args.GetValue(output)!, $"# recipient: {key.Recipient}\n{key.Secret()}\n") is { } failed) return failed;
            Console.Out.WriteLine(key.Recipient.Text);
            return ExitCodes.AllAccounted;
        });
        return command;
    }

    private static Command CreateAdd()
    {
        var (depot, parcel, json, identity, passphrase) = (
            VerbOptions.Depot(), VerbOptions.Parcel(), VerbOptions.Json(), VerbOptions.Identity(), VerbOptions.Passphrase());
        var sealTo = new Option<string?>("--seal-to") { Description = "The recipient that may open the parcel from now on." };
        var fresh = new Option<string?>("--new-passphrase-file")
        {
            Description = "File whose first line is a passphrase that may open it; it takes the place of an earlier one."
        };
        var command = new Command(
            "add",
            "Lets one more recipient or a passphrase open a sealed parcel. Its packs stay as they are.\n\nExample:\n  yardhand key add "
                + "--depot file:///mnt/share --parcel ida-0412 --identity recovery.key --seal-to age1…")
            {
                depot,
                parcel,
                identity,
                passphrase,
                sealTo,
                fresh,
                json
            };
        command.SetAction((args, cancel) => VerbRun.RunAsync("key", args.GetValue(json), async (_, stop) =>
        {
            if (!VerbRun.Open(args.GetValue(depot)!, args.GetValue(parcel)!).TryGet(out var place, out var problem))
                return (Result<string>)problem;
            using var opened = place.Depot;
            if (!VerbOptions.Keys(args.GetValue(identity), args.GetValue(passphrase)).TryGet(out var keys, out var wrong)) return wrong;
            var phrase = VerbOptions.ReadPassphrase(args.GetValue(fresh));
            if (!phrase.IsOk) return phrase.Problem;
            var recipient = args.GetValue(sealTo) is { } text ? AgeRecipient.TryParse(text) : null;
            if ((recipient is null) == (phrase.Value is null))
                return new KeyWhichProblem(args.GetValue(sealTo) is { } mistyped && recipient is null
                    ? $"'{mistyped}' is no recipient. One begins with age1 and has 62 characters."
                    : "Give either --seal-to RECIPIENT or --new-passphrase-file FILE.");
            return await new ParcelOpening(place.Depot, place.Parcel, keys, ThreadWork.Here)
                .AddAsync(new(recipient is null ? [] : [recipient], phrase.Value), stop);
        }, added => Console.Out.WriteLine($"Added: {added}. The packs are as they were."), _ => true, cancel));
        return command;
    }

    private static Option<string> Output() =>
        new("--out") { Description = "File for the secret key; only its owner may read it. One that stands there stays.", Required = true };

    private static int? Write(string file, string text)
    {
        if (File.Exists(file))
            return VerbRun.Fail(
                "key.stands", $"'{file}' stands already and was left as it is. Choose another name.", false, ExitCodes.Usage);
        try
        {
            var options = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write };
            if (!OperatingSystem.IsWindows()) options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
            using var writer = new StreamWriter(file, options);
            writer.Write(text);
            return null;
        }
        catch (Exception broke) when (broke is IOException or UnauthorizedAccessException)
        {
            return VerbRun.Fail("key.file", $"'{file}' could not be written: {broke.Message}", false, ExitCodes.Usage);
        }
    }
}
