// Names for the generated types; nothing here is written twice.
import type { components } from '../../generated/api';

type Schemas = components['schemas'];

export type Session = Schemas['SessionOut'];
export type ShootEntry = Schemas['ShootOut'];
export type Shoot = Schemas['ShootWithPhotos'];
export type Photo = Schemas['PhotoOut'];
export type Added = Schemas['Added'];
export type PhotoWithRecipe = Schemas['PhotoWithRecipe'];
export type RecipeState = Schemas['RecipeState'];
export type Recipe = Schemas['Recipe'];
export type Cast = Schemas['Cast'];
export type Pair = Schemas['Pair'];
export type Guard = Schemas['Guard'];
export type Sample = Schemas['Sample'];
export type Mask = Schemas['Mask'];
export type Part = Mask['parts'][number];
export type Brush = Schemas['Brush'];
export type Stroke = Schemas['Stroke'];
export type ColourKey = Schemas['ColourKey'];
export type Range = Schemas['Range'];
export type Remedy = Cast['remedies'][number];
export type Show = Schemas['Show'];
export type PictureRequest = Schemas['PictureIn'];
export type Measured = Schemas['Measured'];
export type MeasuredPlace = Schemas['MeasuredOut'];
export type PhotoProof = Schemas['PhotoProof'];
export type CastProof = Schemas['CastProof'];
export type PairProof = Schemas['PairProof'];
export type Dial = Schemas['Dial'];
export type Delivery = Schemas['DeliveryOut'];
export type FileFormat = Schemas['DeliverIn']['file_format'];
export type Vector = [number, number];
