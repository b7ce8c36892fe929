using System.Collections.Concurrent;
using YardRelay.Contracts;

namespace YardRelay.Service.Rosters;

/// <summary>
/// The rosters that are being read at this moment, under the names that their senders gave them: for whoever asks how far they are.
/// </summary>
internal sealed class RosterDesk
{
    private readonly ConcurrentDictionary<(string Refresh, string Name), RosterProgress> _under = new();

    /// <summary>A roster that is being read. Leaves the desk when it is disposed of.</summary>
    public sealed class Reading(RosterDesk desk, (string, string)? name, int rows) : IDisposable
    {
        private const int Often = 250;
        private int _from;

        /// <summary>So many rows of this stage are done.</summary>
        public void At(string stage, int done)
        {
            if (name is not { } key || (done % Often != 0 && done != rows)) return;
            // What is seen never goes back: a write that another one overtook begins anew from its first row.
            var order = stage switch { "reading" => 0, "comparing" => 1, _ => 2 };
            if (order < _from) return;
            _from = order;
            desk._under[key] = new(stage, done, rows);
        }

        /// <inheritdoc/>
        public void Dispose()
        {
            if (name is { } key) desk._under.TryRemove(key, out _);
        }
    }

    /// <summary>A roster with so many rows is on the desk.</summary>
    /// <param name="name">As the sender calls it; null: nobody will ask.</param>
    public Reading Begin(string refresh, string? name, int rows) => new(this, name is null ? null : (refresh, name), rows);

    /// <summary>How far it is.</summary>
    public RosterProgress Of(string refresh, string name) => _under.GetValueOrDefault((refresh, name)) ?? new("waiting", 0, 0);
}
