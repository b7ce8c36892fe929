using System.Text.Json;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Sealing;
using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Hand.Shown;

namespace YardRelay.Hand.Runs;

/// <summary>Runs the work of a verb: display while it lasts, one place where problems and exceptions become text and exit codes.</summary>
internal static class VerbRun
{
    /// <param name="what">One word for the display.</param>
    /// <param name="json">Machines read the output.</param>
    /// <param name="work">The work itself.</param>
    /// <param name="show">Prints the report for people.</param>
    /// <param name="isWhole">Whether all is accounted for.</param>
    /// <param name="cancel">Ctrl-C.</param>
    public static async Task<int> RunAsync<T>(
        string what,
        bool json,
        Func<Odometer, CancellationToken, Task<Result<T>>> work,
        Action<T> show,
        Func<T, bool> isWhole,
        CancellationToken cancel)
    {
        var progress = new Odometer();
        try
        {
            Result<T> result;
            await using (ProgressDisplay.Start(what, progress, quiet: json)) result = await work(progress, cancel);
            if (!result.TryGet(out var report, out var problem))
                return Fail(
                    problem.Code,
                    string.Join('\n', result.Problems.Select(p => p.Message)),
                    json,
                    problem is ParcelLocked or DepotFull or ParcelUnfinished or SourceDoubted
                        ? ExitCodes.SnagsOrDamage
                        : ExitCodes.Usage);
            if (json) Console.Out.WriteLine(TripJson.Write(report, indented: true));
            else show(report);
            return isWhole(report) ? ExitCodes.AllAccounted : ExitCodes.SnagsOrDamage;
        }
        catch (DepotUnreachableException gone)
        {
            return Fail("depot.unreachable", gone.Message, json, ExitCodes.Unreachable);
        }
        catch (DepotFullException full)
        {
            return Fail(full.Full.Code, full.Message, json, ExitCodes.SnagsOrDamage);
        }
        catch (SealBrokenException broken)
        {
            return Fail("parcel.broken", $"{broken.Message} Verify the parcel to see what is damaged.", json, ExitCodes.SnagsOrDamage);
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException)
        {
            return Fail("computer.trouble", trouble.Message, json, ExitCodes.SnagsOrDamage);
        }
        catch (OperationCanceledException)
        {
            return Fail("stopped", "Stopped. What was done is safe; run the same command again to go on.", json, ExitCodes.Stopped);
        }
    }

    public static int Fail(string code, string message, bool json, int exit)
    {
        if (json) Console.Out.WriteLine(JsonSerializer.Serialize(new { problem = new { code, message } }, TripJson.Pretty));
        else Console.Error.WriteLine(message);
        return exit;
    }

    /// <summary>Opens the depot and reads the parcel's name, or says what is wrong with them.</summary>
    public static Result<(IDepot Depot, DepotPath Parcel)> Open(string address, string parcel, DepotAccess? access = null)
    {
        if (DepotPath.TryParse(parcel.Trim('/')) is not { IsRoot: false } path)
            return new ParcelNameProblem(parcel);
        return DepotAddress.Open(address, access).TryGet(out var depot, out var problem) ? (depot, path) : problem;
    }
}
