<?php

declare(strict_types=1);

namespace App\Plans;

use Hafen\Document\JsonNode;
use Hafen\Headroom\Aim;
use Hafen\Headroom\AimFigure;
use Hafen\Headroom\Remedies;
use Hafen\Headroom\Remedy;

/** Remedies somebody chose, how much of each where that was set by hand, and what for. */
final readonly class PlanChoice
{
    /** dB a remedy can be set to by hand. */
    public const MOST = 40.0;

    /**
     * @param  list<string>  $remedies  ids
     * @param  array<string, float>  $amounts  dB, by remedy id
     * @param  bool  $prove  whether it is to be proved over the whole length, as somebody chose or hears it
     */
    private function __construct(public Aim $aim, public array $remedies, public array $amounts, public bool $compensate, public bool $prove)
    {
    }

    public static function of(JsonNode $node, Aim $aim): self
    {
        $known = Remedies::standard();
        $node->keys(['remedies'], ['amounts', 'compensate', 'prove']);
        $remedies = array_map(static fn (JsonNode $id): string => $id->oneOf($known->ids()), $node->get('remedies')->items(count($known->ids())));
        if ($remedies === []) {
            throw $node->get('remedies')->expected('at least one remedy');
        }
        $amounts = [];
        if ($node->has('amounts')) {
            $node->get('amounts')->keys([], $remedies);
            foreach ($remedies as $id) {
                if ($node->get('amounts')->has($id)) {
                    $amounts[$id] = $node->get('amounts')->get($id)->number(0.0, self::MOST, 'dB');
                }
            }
        }

        return new self($aim, $remedies, $amounts, $node->optional('compensate')?->boolean() ?? false, $node->optional('prove')?->boolean() ?? false);
    }

    public static function aim(JsonNode $node): Aim
    {
        $node->keys(['figure', 'level']);
        $figure = AimFigure::from($node->get('figure')->oneOf(array_column(AimFigure::cases(), 'value')));

        return new Aim($figure, $node->get('level')->number(Aim::LOWEST, Aim::HIGHEST, $figure->unit()));
    }

    /** @param  array<string, mixed>  $stored  by {@see toArray()} */
    public static function stored(array $stored): self
    {
        $node = JsonNode::parse(json_encode($stored, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION), 1 << 16);
        $choice = ['remedies' => $stored['remedies'], 'compensate' => $stored['compensate']];
        if ($stored['amounts'] !== []) {
            $choice['amounts'] = $stored['amounts'];
        }

        return self::of(JsonNode::parse(json_encode($choice, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION), 1 << 16), self::aim($node->get('aim')));
    }

    /** @return list<Remedy> */
    public function chosen(): array
    {
        return Remedies::standard()->chosen($this->remedies);
    }

    /** Whether one of them goes by an amount. */
    public function hasAmount(): bool
    {
        return array_filter($this->chosen(), static fn (Remedy $remedy): bool => $remedy->hasAmount()) !== [];
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'aim' => ['figure' => $this->aim->figure->value, 'level' => $this->aim->level],
            'remedies' => array_map(static fn (Remedy $remedy): string => $remedy->id(), $this->chosen()),
            'amounts' => $this->amounts,
            'compensate' => $this->compensate,
        ];
    }

    public function key(): string
    {
        return hash('xxh128', serialize($this->toArray()));
    }
}
