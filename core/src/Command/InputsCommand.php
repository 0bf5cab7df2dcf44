<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Hardware\InterfaceProfile;
use Hafen\Hardware\PlugKind;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;

/** Lists the ports of the interface that ships with Hafen, and what a session does with each. */
final readonly class InputsCommand implements Command
{
    public function name(): string
    {
        return 'inputs';
    }

    public function usage(): string
    {
        return 'inputs SESSION.json [--json]';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json'], [], ['json']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $session = $terminal->open($arguments->position(0));
        $profile = InterfaceProfile::standard();
        $rows = ['inputs' => self::inputs($session, $profile), 'outputs' => self::outputs($session, $profile)];
        if ($arguments->has('json')) {
            $terminal->json($rows);

            return 0;
        }
        foreach (['inputs' => 'in', 'outputs' => 'out'] as $way => $word) {
            foreach ($rows[$way] as $row) {
                $terminal->say(rtrim(sprintf('%-3s %d  %-16s %-24s %s', $word, $row['port'], $row['name'], $row['plug'] ?? '', implode(', ', $row['channels']))));
            }
        }

        return 0;
    }

    /** @return list<array{port: int, name: string, plug: string, channels: list<string>}> */
    private static function inputs(Session $session, InterfaceProfile $profile): array
    {
        $rows = [];
        foreach ($profile->inputs as $port => $input) {
            $taking = [];
            foreach ($session->channels as $channel) {
                if ($channel->source instanceof ClipSource && in_array($port, InterfacePorts::numbers($channel->source->input->port ?? '', 'in'), true)) {
                    $taking[] = $channel->name;
                }
            }
            foreach ($session->loops as $loop) {
                array_push($taking, ...(in_array($port, $loop->inputs(), true) ? ["loop {$loop->name}"] : []));
            }
            $plug = $input->plug === PlugKind::Cable ? "a cable from output {$input->output}" : $input->plug->label();
            $rows[] = ['port' => $port, 'name' => $input->name, 'plug' => $plug, 'channels' => $taking];
        }

        return $rows;
    }

    /** @return list<array{port: int, name: string, channels: list<string>}> */
    private static function outputs(Session $session, InterfaceProfile $profile): array
    {
        $rows = [];
        foreach ($profile->outputs as $port => $name) {
            $from = [];
            foreach ($session->channels as $channel) {
                array_push($from, ...(in_array($port, InterfacePorts::numbers($channel->output, 'hw'), true) ? [$channel->name] : []));
            }
            foreach ($session->loops as $loop) {
                array_push($from, ...(in_array($port, $loop->outputs(), true) ? ["loop {$loop->name}"] : []));
            }
            $rows[] = ['port' => $port, 'name' => $name, 'channels' => $from];
        }

        return $rows;
    }
}
