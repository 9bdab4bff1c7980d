import type { Stage } from '@auk/core';
import { Entity, Index } from 'typeorm';
import { At, Big, Code, Day, Fixed, Flag, Hash, Int, Json, Ref, Text, Uuid } from '../database/columns.js';

@Entity('orders')
@Index(['buyer'])
@Index(['channelId', 'no'])
@Index(['country', 'no'])
@Index(['leavesAt', 'no'])
@Index(['mail'])
@Index(['channelNumber'])
@Index(['isOpen', 'no'])
@Index(['isOpen', 'leavesAt', 'no'])
@Index(['isOpen', 'promised', 'no'])
@Index(['isOpen', 'totalMinor', 'no'])
@Index(['payment', 'no'])
@Index(['placedAt', 'no'])
@Index(['promised', 'no'])
@Index(['settled', 'no'])
@Index(['stage', 'promised', 'no'])
@Index(['starred', 'no'])
@Index(['together', 'draftedAt', 'stage'])
@Index(['totalMinor', 'no'])
@Index(['buyer', 'mail'], { fulltext: true })
@Index(['channelId', 'channelNumber'], { unique: true })
@Index(['departureId', 'stage'])
@Index(['mergedIntoId'])
@Index(['no'], { unique: true })
@Index(['splitOfId'])
@Index(['stage', 'no'])
@Index(['warehouseId'])
export class Order {
  @Uuid({ primary: true })
  id!: string;

  @Int({ generated: 'increment' })
  no!: number;

  @Ref('Warehouse')
  warehouseId!: string;

  @Ref('Channel')
  channelId!: string;

  @Code(48)
  channelNumber!: string;

  @At({ nullable: true })
  placedAt!: Date | null;

  @At()
  receivedAt!: Date;

  @Text(80)
  buyer!: string;

  @Text(120)
  mail!: string;

  @Json()
  shipTo!: unknown;

  @Text(20)
  payment!: string;

  @Fixed(3)
  currency!: string;

  @Big()
  linesMinor!: number;

  @Big()
  shippingMinor!: number;

  @Day({ nullable: true })
  promised!: string | null;

  @Text(500)
  note!: string;

  @Fixed(64, 'code')
  digest!: string;

  @At({ nullable: true })
  checkedAt!: Date | null;

  @At({ nullable: true })
  parkedAt!: Date | null;

  @Text(200, { nullable: true })
  parkedReason!: string | null;

  @At({ nullable: true })
  cancelledAt!: Date | null;

  @Flag({ default: false })
  starred!: boolean;

  @Big({ nullable: true })
  weightOverrideMg!: number | null;

  @Ref('Departure', { nullable: true })
  departureId!: string | null;

  @Text(12)
  stage!: Stage;

  @Int({ default: 1 })
  version!: number;

  @Big({ default: 0 })
  discountMinor!: number;

  @Big({ default: 0 })
  taxMinor!: number;

  @Big({ default: 0 })
  totalMinor!: number;

  @Big({ default: 0 })
  paidMinor!: number;

  @Json({ nullable: true })
  billTo!: unknown | null;

  @Text(120, { default: '' })
  pickUpPoint!: string;

  @Text(60, { default: '' })
  serviceAsked!: string;

  @Day({ nullable: true })
  shipBy!: string | null;

  @Json({ nullable: true })
  base!: unknown | null;

  @At({ nullable: true })
  draftedAt!: Date | null;

  @Text(40, { nullable: true })
  parkWord!: string | null;

  @Ref('Order', { nullable: true })
  mergedIntoId!: string | null;

  @Ref('Order', { nullable: true })
  splitOfId!: string | null;

  @Hash(16, { nullable: true })
  together!: Buffer | null;

  @At({ nullable: true })
  leavesAt!: Date | null;

  @Big({ nullable: true })
  revision!: number | null;

  @Fixed(2, 'code', { default: '' })
  country!: string;

  @Flag({ asExpression: `stage not in ('Departed','Cancelled')`, generatedType: 'STORED', nullable: true })
  isOpen!: boolean;

  @Code(16, {
    asExpression: `case when payment in ('refunded','on delivery','part refunded') then payment when paidMinor >= totalMinor and (payment = 'paid' or paidMinor > 0) then 'paid' when paidMinor > 0 then 'part paid' else 'unpaid' end`,
    generatedType: 'STORED',
    nullable: true,
  })
  settled!: string;
}
