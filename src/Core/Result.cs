using System.Diagnostics.CodeAnalysis;

namespace YardRelay.Core;

/// <summary>Either a value or the problems that stood in its way (at least one).</summary>
public readonly record struct Result<T>
{
    private readonly T? _value;
    private readonly IReadOnlyList<Problem>? _problems;

    private Result(T? value, IReadOnlyList<Problem>? problems) => (_value, _problems) = (value, problems);

    /// <summary>True when there is a value.</summary>
    public bool IsOk => _problems is null;

    /// <summary>The value.</summary>
    /// <exception cref="InvalidOperationException">There are problems instead.</exception>
    public T Value => IsOk ? _value! : throw new InvalidOperationException(string.Join(' ', Problems.Select(p => p.Message)));

    /// <summary>What stood in the way; empty when there is a value.</summary>
    public IReadOnlyList<Problem> Problems => _problems ?? [];

    /// <summary>The first problem.</summary>
    public Problem Problem => Problems[0];

    /// <summary>Takes the value out, or the first problem.</summary>
    public bool TryGet([MaybeNullWhen(false)] out T value, [MaybeNullWhen(true)] out Problem problem)
    {
        (value, problem) = (_value, IsOk ? null : Problems[0]);
        return IsOk;
    }

    /// <summary>A result that holds <paramref name="value"/>; for interfaces, which no operator converts.</summary>
    public static Result<T> Of(T value) => new(value, null);

    /// <summary>A result that holds <paramref name="value"/>.</summary>
    public static implicit operator Result<T>(T value) => new(value, null);

    /// <summary>A result that holds one problem.</summary>
    public static implicit operator Result<T>(Problem problem) => new(default, [problem]);

    /// <summary>A result that holds all of <paramref name="problems"/>.</summary>
    public static Result<T> Failed(IReadOnlyList<Problem> problems) =>
        problems.Count > 0 ? new(default, problems) : throw new ArgumentException("A failed result needs a problem.", nameof(problems));
}
