<?php

declare(strict_types=1);

namespace Hafen\Audio;

use Throwable;

/**
 * Guards loops over samples: nothing may interrupt them, and no PHP warning may pass in them.
 *
 * The tracing JIT of PHP 8.2 computes wrong samples when the virtual machine is interrupted inside a compiled loop: by a signal
 * while asynchronous signals are on, by a time limit, by an alarm. And a handled signal that comes while PHP compiles a file can
 * crash it (a queue in zend_signal). So signals are held back by the kernel while samples are worked on, and let in between blocks.
 */
final class SampleLoops
{
    /** Whatever else this PHP is told to report: what could have made samples wrong. */
    private const FAULTS = E_ALL & ~E_DEPRECATED & ~E_USER_DEPRECATED;

    private static ?bool $hasSignals = null;

    /** Whether the kernel holds signals back just now. */
    private static bool $isHeld = false;

    /** Whether this process has no time limit any more, see {@see liftTimeLimits()}. */
    private static bool $isUnlimited = false;

    /**
     * Holds signals back from now on, for as long as this process lives; {@see pause()} lets them in. To be called once handlers
     * are set, as setting one lets its signal in. For workers.
     */
    public static function holdSignals(): void
    {
        self::keepSignalsOut();
        if (self::$hasSignals === true) {
            pcntl_sigprocmask(SIG_BLOCK, self::held());
            self::$isHeld = true;
        }
    }

    /** Switches asynchronous signals off: signals wait until they are asked for. */
    public static function keepSignalsOut(): void
    {
        if (self::$hasSignals ??= function_exists('pcntl_async_signals')) {
            pcntl_async_signals(false);
        }
    }

    /**
     * Ends all time limits of this process. PHP lets the limit for reading a request's input (max_input_time) run on behind
     * max_execution_time 0, and set_time_limit(0) then ends nothing: so a limit is set first, and that is ended.
     */
    public static function liftTimeLimits(): void
    {
        set_time_limit(86_400);
        set_time_limit(0);
        self::$isUnlimited = true;
    }

    /**
     * Refuses to go on where something could interrupt a loop. Cheap enough for every block.
     *
     * @throws LoopsNotSafe
     */
    public static function check(): void
    {
        if ((self::$hasSignals ??= function_exists('pcntl_async_signals')) && pcntl_async_signals()) {
            throw LoopsNotSafe::asynchronousSignals();
        }
        $limit = (int) ini_get('max_execution_time');
        if ($limit > 0) {
            throw LoopsNotSafe::timeLimit($limit);
        }
        $limit = (int) ini_get('max_input_time');
        if ($limit > 0 && ! self::$isUnlimited) {
            throw LoopsNotSafe::inputTimeLimit($limit);
        }
    }

    /**
     * To be called between blocks: lets signals in, and the handlers run of those that came meanwhile.
     *
     * @throws LoopsNotSafe
     */
    public static function pause(): void
    {
        self::check();
        if (self::$hasSignals !== true) {
            return;
        }
        if (self::$isHeld) {
            pcntl_sigprocmask(SIG_UNBLOCK, self::held());
        }
        pcntl_signal_dispatch();
        if (self::$isHeld) {
            pcntl_sigprocmask(SIG_BLOCK, self::held());
        }
    }

    /**
     * Does work on samples, with signals held back. The first PHP warning or notice in it ends it.
     *
     * @template T
     *
     * @param  callable(): T  $work
     * @return T
     *
     * @throws LoopsNotSafe before it begins, where something could interrupt it
     * @throws LoopFault when PHP complains
     * @throws Throwable what the work throws
     */
    public static function run(callable $work): mixed
    {
        self::check();
        self::refuseAlarm();
        $wasHeld = self::$isHeld;
        $mask = [];
        if (self::$hasSignals === true && ! $wasHeld) {
            pcntl_sigprocmask(SIG_BLOCK, self::held(), $mask);
            self::$isHeld = true;
        }
        set_error_handler(static function (int $level, string $message, string $file, int $line): bool {
            // What is silenced with "@" is looked after where it stands.
            if ((error_reporting() & $level) === 0) {
                return false;
            }
            throw LoopFault::of($message, $file, $line);
        });
        $reported = error_reporting(self::FAULTS);
        try {
            return $work();
        } finally {
            error_reporting($reported);
            restore_error_handler();
            if (self::$hasSignals === true && ! $wasHeld) {
                self::$isHeld = false;
                /** @var array<int> $mask what was held back before */
                pcntl_sigprocmask(SIG_SETMASK, $mask);
            }
        }
    }

    /** @return list<int> those that are handled or end a process; not those by which children and timers are heard of */
    private static function held(): array
    {
        return [SIGTERM, SIGINT, SIGQUIT, SIGHUP, SIGUSR1, SIGUSR2, SIGCONT];
    }

    /** An alarm can only be read by taking it away. */
    private static function refuseAlarm(): void
    {
        $left = self::$hasSignals === true ? pcntl_alarm(0) : 0;
        if ($left > 0) {
            pcntl_alarm($left);
            throw LoopsNotSafe::alarm($left);
        }
    }
}
